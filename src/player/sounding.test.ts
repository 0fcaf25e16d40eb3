import { describe, expect, it } from 'vitest';
import type { TakeId } from '@/core/base/ids';
import { plainCut } from '../../tests/support/made-up';
import type { FromPlayer } from './messages';
import type { DecodedSound, SoundTrack } from './reels';
import { openSounding } from './sounding';
import type { DecodeSound } from './sounds-ahead';

const take = 'a' as TakeId;
const TRACKS = [{ kind: 'voice' } as SoundTrack, { kind: 'app-sound' } as SoundTrack];
const PIECE_US = 250_000;

type Sound = Extract<FromPlayer, { type: 'sound' }>;

/** Sounding over ten seconds of a take with two sounds, and a clock that is moved by hand. */
function opened(fails = false) {
  let now = 0;
  const decoded: string[] = [];
  const decode: DecodeSound = async function* ({ kind }, fromUs, untilUs) {
    if (fails) throw new Error('The file is gone.');
    decoded.push(kind);
    for (let us = fromUs; us < untilUs; us += PIECE_US)
      yield { takeUs: us, sampleRate: 48_000, planes: [new Float32Array(12_000)] } satisfies DecodedSound;
  };
  const told: { sound: Sound; transfer: Transferable[] }[] = [];
  const failures: unknown[] = [];
  const stage = {
    cut: () => plainCut(take, [{ take, inUs: 0, outUs: 10_000_000 }]),
    soundsOf: () => TRACKS,
  };
  const sounding = openSounding(
    stage,
    decode,
    { nowUs: () => now, speed: () => 1 },
    (sound, transfer) => told.push({ sound: sound as Sound, transfer }),
    (error) => failures.push(error),
  );
  const rest = () => new Promise(setImmediate);
  return {
    sounding,
    decoded,
    told,
    failures,
    rest,
    tick: async (us: number) => {
      now += us;
      sounding.clockTold();
      await rest();
    },
    placesOf: (asked: number) =>
      told.filter(({ sound }) => sound.asked === asked).map(({ sound: { us } }) => us),
  };
}

describe('sounding', () => {
  it('sends the sounds about a place with the count of who asked, and hands their memory over', async () => {
    const { sounding, told, tick, rest } = opened();
    await tick(2_000_000);
    sounding.from({ us: 2_000_000, asked: 7 });
    await rest();
    expect(new Set(told.map(({ sound }) => sound.asked))).toEqual(new Set([7]));
    expect(told[0]?.sound.us).toBe(2_000_000);
    for (const { sound, transfer } of told)
      expect(transfer).toEqual(sound.planes.map(({ buffer }) => buffer));
  });

  it('goes on as the clock does, once it is told', async () => {
    const { sounding, placesOf, tick, rest } = opened();
    sounding.setSolo('voice');
    sounding.from({ us: 0, asked: 1 });
    await rest();
    expect(placesOf(1).at(-1)).toBe(1_000_000);
    await tick(500_000);
    expect(placesOf(1).at(-1)).toBe(1_500_000);
  });

  it('ends what was sent from another place', async () => {
    const { sounding, placesOf, tick, rest } = opened();
    sounding.from({ us: 0, asked: 1 });
    await rest();
    const before = placesOf(1).length;
    sounding.from({ us: 5_000_000, asked: 2 });
    for (let i = 0; i < 40; i++) await tick(250_000);
    expect(placesOf(1)).toHaveLength(before);
    expect(placesOf(2)[0]).toBe(5_000_000);
    expect(placesOf(2).at(-1)).toBe(9_750_000);
  });

  it('decodes only the sound that is heard alone', async () => {
    const { sounding, decoded, rest } = opened();
    sounding.setSolo('app-sound');
    sounding.from({ us: 0, asked: 1 });
    await rest();
    sounding.setSolo(null);
    sounding.from({ us: 0, asked: 2 });
    await rest();
    expect(decoded).toEqual(['app-sound', 'voice', 'app-sound']);
  });

  it('sends nothing more when it has ended, whatever the clock says', async () => {
    const { sounding, told, tick, rest } = opened();
    sounding.from({ us: 0, asked: 1 });
    await rest();
    const before = told.length;
    sounding.end();
    for (let i = 0; i < 10; i++) await tick(250_000);
    expect(told).toHaveLength(before);
  });

  it('reports what cannot be decoded', async () => {
    const { sounding, failures, told, rest } = opened(true);
    sounding.from({ us: 0, asked: 1 });
    await rest();
    expect(failures).toEqual([new Error('The file is gone.')]);
    expect(told).toEqual([]);
  });
});

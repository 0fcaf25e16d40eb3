import { describe, expect, it } from 'vitest';
import { newBell } from '@/core/base/bell';
import type { TakeId } from '@/core/base/ids';
import type { SoundKind } from '@/core/recording/take';
import { plainCut } from '../../tests/support/made-up';
import type { DecodedSound, SoundTrack } from './reels';
import { type DecodeSound, sendSounds } from './sounds-ahead';

const take = 'a' as TakeId;
const VOICE = [{ kind: 'voice' } as SoundTrack];
const PIECE_US = 250_000;

/** A clock that is moved by hand, a decoder that costs time on it, and what is heard in time. */
function listening(
  cut: ReturnType<typeof plainCut>,
  costUs: (fromUs: number) => number,
  sounds = VOICE,
  solo: SoundKind | null = null,
) {
  const clock = newBell();
  const heard: { us: number; at: number }[] = [];
  const asked: number[] = [];
  const decoded = new Set<SoundKind>();
  let now = 0;
  let wanted = true;
  const decode: DecodeSound = async function* ({ kind }, fromUs, untilUs) {
    asked.push(fromUs);
    decoded.add(kind);
    for (let us = fromUs; us < untilUs; us += PIECE_US) {
      now += costUs(us);
      const planes = [new Float32Array(Math.round((Math.min(PIECE_US, untilUs - us) * 48) / 1000))];
      yield { takeUs: us, sampleRate: 48_000, planes } satisfies DecodedSound;
    }
  };
  const ended = sendSounds(cut, () => sounds, 0, decode, {
    nowUs: () => now,
    solo,
    speed: () => 1,
    clockTold: clock.next,
    wanted: () => wanted,
    hear: (us) => heard.push({ us, at: now }),
  });
  return {
    heard,
    asked,
    decoded,
    ended,
    tick: async (us: number) => {
      now += us;
      clock.ring();
      await new Promise(setImmediate);
    },
    leave: async () => {
      wanted = false;
      clock.ring();
      await ended;
    },
  };
}

describe('sounds ahead of the clock', () => {
  it('are decoded 1.2 s ahead and no further, every piece of the cut at its place', async () => {
    const cut = plainCut(take, [
      { take, inUs: 1_000_000, outUs: 3_000_000 },
      { take, inUs: 5_000_000, outUs: 6_000_000 },
    ]);
    const { heard, asked, tick, ended } = listening(cut, () => 0);
    await tick(0);
    expect(heard.map(({ us }) => us)).toEqual([0, 250_000, 500_000, 750_000, 1_000_000]);
    for (let i = 0; i < 12; i++) await tick(250_000);
    await ended;
    expect(heard.map(({ us }) => us)).toEqual(Array.from({ length: 12 }, (_, i) => i * PIECE_US));
    for (const { us, at } of heard) expect(us - at).toBeLessThanOrEqual(1_200_000);
    expect(asked).toEqual([1_000_000, 5_000_000]);
  });

  it('are heard again after the machine stood still: what the clock has passed is left out', async () => {
    const cut = plainCut(take, [{ take, inUs: 0, outUs: 20_000_000 }]);
    // Nothing for three seconds at one place, then four times as fast as it is played.
    const { heard, tick, ended } = listening(cut, (us) => (us === 2_000_000 ? 3_000_000 : 60_000));
    for (let i = 0; i < 100; i++) await tick(250_000);
    await ended;
    const late = heard.filter(({ us, at }) => us + PIECE_US < at);
    expect(late).toHaveLength(1);
    const next = heard[heard.indexOf(late[0] as (typeof heard)[0]) + 1];
    expect((next?.us ?? 0) - (late[0]?.at ?? 0)).toBeGreaterThanOrEqual(300_000);
  });

  it('are all heard, or one of them alone', async () => {
    const cut = plainCut(take, [{ take, inUs: 0, outUs: 1_000_000 }]);
    const both = [...VOICE, { kind: 'app-sound' } as SoundTrack];
    const kindsOf = async (solo: SoundKind | null) => {
      const { decoded, ended } = listening(cut, () => 0, both, solo);
      await ended;
      return [...decoded].sort();
    };
    expect(await kindsOf(null)).toEqual(['app-sound', 'voice']);
    expect(await kindsOf('voice')).toEqual(['voice']);
    expect(await kindsOf('app-sound')).toEqual(['app-sound']);
  });

  it('end at once when other sounds are wanted', async () => {
    const cut = plainCut(take, [{ take, inUs: 0, outUs: 20_000_000 }]);
    const { heard, tick, leave } = listening(cut, () => 0);
    await tick(0);
    const before = heard.length;
    await leave();
    expect(heard).toHaveLength(before);
  });
});

describe('sounds of a step at another speed', () => {
  const at = (speed: number) => {
    const cut = plainCut(take, [{ take, inUs: 1_000_000, outUs: 5_000_000 }]);
    return { ...cut, steps: cut.steps.map((step) => ({ ...step, speed })) };
  };

  it('are asked for from the take at their own speed, and lie where their pictures do', async () => {
    const { heard, asked, tick, ended } = listening(at(2), () => 0);
    await tick(0);
    for (let i = 0; i < 12; i++) await tick(250_000);
    await ended;
    expect(asked).toEqual([1_000_000]);
    // Four seconds of the take are two of the video.
    expect(Math.max(...heard.map(({ us }) => us))).toBeLessThan(2_000_000);
    expect(Math.max(...heard.map(({ us }) => us))).toBeGreaterThan(1_700_000);
  });

  it('are not heard above twice the speed, nor while a picture is held', async () => {
    const fast = listening(at(4), () => 0);
    await fast.ended;
    const cut = plainCut(take, [{ take, inUs: 0, outUs: 3_000_000, heldUs: 0 }]);
    const held = listening(cut, () => 0);
    await held.ended;
    expect([...fast.heard, ...held.heard]).toEqual([]);
  });
});

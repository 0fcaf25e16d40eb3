import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gathered } from './gather';
import type { DecodedSound } from './reels';

const RATE = 48_000;
/** Each sample is its own number within the track, negative in the second channel. */
const packet = (first: number, length: number): DecodedSound => ({
  takeUs: Math.round((first * 1e6) / RATE),
  sampleRate: RATE,
  planes: [1, -1].map((sign) => Float32Array.from({ length }, (_, i) => sign * (first + i))),
});

async function pieces(sounds: DecodedSound[]): Promise<DecodedSound[]> {
  const decoded = async function* () {
    yield* sounds;
  };
  const given: DecodedSound[] = [];
  for await (const piece of gathered(decoded())) given.push(piece);
  return given;
}

const lengths = fc.array(fc.integer({ min: 1, max: 4800 }), { minLength: 1, maxLength: 60 });

describe('decoded sounds, gathered', () => {
  it('hold every sample once and in order, each at its time', async () => {
    await fc.assert(
      fc.asyncProperty(lengths, fc.nat(10), async (packets, gapAt) => {
        let first = 0;
        const sounds = packets.map((length, i) => {
          // A missing packet somewhere.
          if (i === gapAt) first += 960;
          const sound = packet(first, length);
          first += length;
          return sound;
        });
        const given = await pieces(sounds);
        const samples = (all: DecodedSound[], channel: number) =>
          all.flatMap(({ planes }) => [...(planes[channel] ?? [])]);
        for (const channel of [0, 1]) expect(samples(given, channel)).toEqual(samples(sounds, channel));
        for (const { takeUs, planes } of given)
          expect(takeUs).toBe(Math.round(((planes[0]?.[0] ?? 0) * 1e6) / RATE));
      }),
      { numRuns: 40 },
    );
  });

  it('come in pieces of a quarter of a second, the first one sooner', async () => {
    const given = await pieces(Array.from({ length: 100 }, (_, i) => packet(i * 960, 960)));
    const ms = given.map(({ planes }) => (planes[0]?.length ?? 0) / 48);
    expect(ms).toEqual([60, ...Array(8).fill(240), 20]);
  });

  it('begin a new piece where the number of channels changes', async () => {
    const mono = { ...packet(960, 960), planes: [new Float32Array(960)] };
    const given = await pieces([packet(0, 960), mono, packet(1920, 960)]);
    expect(given.map(({ planes }) => planes.length)).toEqual([2, 1, 2]);
  });
});

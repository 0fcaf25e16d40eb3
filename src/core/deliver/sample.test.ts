import fc from 'fast-check';
import { expect, it } from 'vitest';
import { newStepId, newTakeId } from '../base/ids';
import { type Cut, cutLengthUs, PLAIN_STEP } from '../cut/cut';
import type { Packet } from '../recording/packet';
import { leastKeyframes, pictureBytesBySample, stretchesToSample } from './sample';
import type { RenderTake } from './take-sources';

const SIZE = { width: 1280, height: 720 };
const RATE = { num: 30, den: 1 };

/** A take of whole seconds; `bytes` are those of each second's changes, a keyframe of 50 kB stands at every other second. */
function takeOf(bytes: readonly number[]): RenderTake {
  const packets = bytes.flatMap((sum, second): Packet[] =>
    Array.from({ length: 30 }, (_, n) => {
      const key = second % 2 === 0 && n === 0;
      return { us: second * 1e6 + Math.round((n * 1e6) / 30), bytes: key ? 50_000 : sum / 30, key };
    }),
  );
  const durationUs = bytes.length * 1e6;
  const screen = {
    path: 's',
    size: SIZE,
    startUs: 0,
    endUs: durationUs,
    timesUs: packets.map(({ us }) => us),
    packets,
  };
  return {
    ...{ id: newTakeId(), durationUs, rate: RATE, size: SIZE, sounds: [], copies: [], bytes: 0, cameras: [] },
    plain: { layout: { kind: 'screen' }, gains: { voiceDb: 0, appSoundDb: 0 }, path: null },
    screens: [screen],
  };
}

const cutOf = (take: RenderTake, inS: number, outS: number): Cut => ({
  version: 4,
  marks: [],
  steps: [
    {
      ...PLAIN_STEP,
      id: newStepId(),
      title: '',
      pieces: [{ take: take.id, inUs: inS * 1e6, outUs: outS * 1e6 }],
      layout: { kind: 'screen' },
      gains: { voiceDb: 0, appSoundDb: 0 },
    },
  ],
});

const seconds = fc.array(fc.integer({ min: 0, max: 400_000 }), { minLength: 7, maxLength: 90 });

it('samples at most three seconds that lie in the cut, the busiest among them', () => {
  fc.assert(
    fc.property(seconds, fc.nat(20), (bytes, head) => {
      const take = takeOf(bytes);
      const inS = Math.min(head, bytes.length - 7);
      const cut = cutOf(take, inS, bytes.length);
      const stretches = stretchesToSample(cut, [take]);
      expect(stretches.length).toBeGreaterThan(0);
      expect(stretches.length).toBeLessThanOrEqual(3);
      for (const { cut: part } of stretches) {
        const [piece] = part.steps[0]?.pieces ?? [];
        expect(piece?.inUs).toBeGreaterThanOrEqual(inS * 1e6);
        expect(piece?.outUs).toBeLessThanOrEqual(bytes.length * 1e6);
        expect(cutLengthUs(part)).toBeLessThanOrEqual(1e6);
      }
      const kept = bytes.slice(inS).map((sum, n) => ((inS + n) % 2 === 0 ? (sum * 29) / 30 : sum));
      expect(Math.max(...stretches.map(({ liveBytes }) => liveBytes))).toBeCloseTo(Math.max(...kept), 3);
    }),
  );
});

it('encodes all of a short cut, and is what came of it', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 6 }),
      fc.nat(90_000),
      fc.nat(90_000),
      (lengthS, keyBytes, otherBytes) => {
        const take = takeOf(Array.from({ length: 10 }, () => 1000));
        const cut = cutOf(take, 2, 2 + lengthS);
        const stretches = stretchesToSample(cut, [take]);
        expect(stretches.map((stretch) => stretch.cut)).toEqual([cut]);
        const sampled = stretches.map((stretch) => ({ stretch, keyBytes, otherBytes }));
        // Both keyframes of two pieces are among them already.
        expect(pictureBytesBySample(cut, [take], sampled, 2)).toBe(keyBytes + otherBytes);
      },
    ),
  );
});

it('is exact for an encoder that makes a fixed share of what the live recorder made of every change', () => {
  fc.assert(
    fc.property(
      seconds,
      fc.double({ min: 0.05, max: 2, noNaN: true }),
      fc.integer({ min: 1, max: 9 }),
      (bytes, ratio, keyframes) => {
        const take = takeOf(bytes);
        const cut = cutOf(take, 0, bytes.length);
        const sampled = stretchesToSample(cut, [take]).map((stretch) => ({
          stretch,
          keyBytes: 20_000,
          otherBytes: stretch.liveBytes * ratio,
        }));
        const all = bytes.reduce((sum, each, n) => sum + (n % 2 === 0 ? (each * 29) / 30 : each), 0);
        // A second without any change says nothing of others that have some.
        fc.pre(sampled.every(({ stretch }) => stretch.liveBytes > 0));
        const expected = keyframes * 20_000 + all * ratio;
        expect(pictureBytesBySample(cut, [take], sampled, keyframes)).toBeCloseTo(expected, -1);
      },
    ),
  );
});

it('counts a keyframe for each beginning, and one wherever the distance is used up', () => {
  expect(leastKeyframes([0.4], 10)).toBe(1);
  expect(leastKeyframes([10], 10)).toBe(1);
  expect(leastKeyframes([10.1, 30, 5], 10)).toBe(2 + 3 + 1);
  expect(leastKeyframes([60], 30)).toBe(2);
});

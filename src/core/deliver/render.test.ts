import fc from 'fast-check';
import { expect, it } from 'vitest';
import { newStepId, newTakeId } from '../base/ids';
import { frameTimeUs } from '../base/rational';
import { type Cut, cutLengthUs, PLAIN_STEP } from '../cut/cut';
import type { Piece } from '../cut/piece';
import { DESTINATIONS, Destination } from '../destination/destination';
import { outputShape } from './output-shape';
import type { CopySource } from './take-sources';
import { framesUs, frameTimeline } from './timeline';
import { copyable } from './way';

const RATES = [
  { num: 30, den: 1 },
  { num: 30_000, den: 1001 },
  { num: 15, den: 1 },
  { num: 60, den: 1 },
];
const take = newTakeId();
const cutOf = (pieces: Piece[]): Cut => ({
  version: 4,
  marks: [],
  steps: [
    {
      ...PLAIN_STEP,
      ...{ id: newStepId(), title: '', pieces, layout: { kind: 'screen' } },
      gains: { voiceDb: 0, appSoundDb: 0 },
    },
  ],
});
const pieces = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 3_000_000 }), fc.integer({ min: 1, max: 3_000_000 })), {
    minLength: 1,
    maxLength: 30,
  })
  .map((gaps) => {
    let us = 0;
    return gaps.map(([gap, length]): Piece => {
      const inUs = us + gap;
      us = inUs + length;
      return { take, inUs, outUs: us };
    });
  });

it('lays pieces on frames without gap, overlap or drift, each moved by less than a frame', () => {
  fc.assert(
    fc.property(
      pieces,
      fc.constantFrom(...RATES),
      fc.integer({ min: 0, max: 40_000 }),
      (list, rate, phase) => {
        const cut = cutOf(list);
        const frameUs = frameTimeUs(1, rate);
        const times = Array.from({ length: 40 }, (_, n) => phase + frameTimeUs(n, rate));
        const timeline = frameTimeline(cut, rate, () => times);
        let next = 0;
        let seenUs = 0;
        for (const { piece, firstFrame, frames, originUs } of timeline) {
          expect(firstFrame).toBe(next);
          next = firstFrame + frames;
          seenUs = piece.inUs;
          expect(Math.abs(originUs - seenUs)).toBeLessThanOrEqual(frameUs * 1.01 + 1);
        }
        expect(Math.abs(framesUs(timeline, rate) - cutLengthUs(cut))).toBeLessThanOrEqual(frameUs / 2 + 1);
      },
    ),
  );
});

it('goes on without a seam where a step only was split', () => {
  const rate = { num: 30, den: 1 };
  const cut = cutOf([
    { take, inUs: 500_017, outUs: 1_234_567 },
    { take, inUs: 1_234_567, outUs: 3_000_001 },
  ]);
  const [a, b] = frameTimeline(cut, rate, ({ inUs }) => [inUs + 9_000, inUs + 42_333]);
  expect(b?.continues).toBe(true);
  expect((b?.originUs ?? 0) - (a?.originUs ?? 0)).toBe(frameTimeUs(a?.frames ?? 0, rate));
});

it('divides every stretch into what is copied and what is encoded, without gap or overlap', () => {
  const frameUs = 33_333;
  const source = (reordered: boolean): CopySource => ({
    what: 'plain',
    path: '',
    shiftUs: 0,
    timesUs: Array.from({ length: 300 }, (_, n) => n * frameUs),
    keyframesUs: [0, 60, 120, 180, 240].map((n) => n * frameUs),
    reordered,
    bytes: 0,
    video: {} as CopySource['video'],
  });
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 298 }),
      fc.integer({ min: 1, max: 299 }),
      fc.boolean(),
      (first, count, reordered) => {
        const last = Math.min(299, first + count);
        const [from, to] = [first * frameUs - frameUs / 2, last * frameUs - frameUs / 2];
        const stretches = copyable(source(reordered), from, to, frameUs);
        let at = from;
        for (const { kind, fromUs, toUs } of stretches) {
          expect(fromUs - at).toBeLessThan(frameUs);
          expect(toUs).toBeGreaterThan(fromUs);
          if (kind === 'copy') expect(source(reordered).keyframesUs).toContain(fromUs);
          at = toUs;
        }
        expect(at).toBe(to);
        const kinds = stretches.map(({ kind }) => kind).join(' ');
        expect(reordered ? kinds : kinds.replace(/encode copy|copy/, '')).toMatch(
          /^(encode ?)?(copy)?( ?encode)?$/,
        );
      },
    ),
  );
});

it('never scales up, keeps even sides and the asked shape', () => {
  const side = fc.integer({ min: 8, max: 1200 }).map((v) => v * 2);
  fc.assert(
    fc.property(side, side, fc.constantFrom(...DESTINATIONS), (width, height, destination) => {
      const { scaled, canvas } = outputShape({ width, height }, destination);
      for (const v of [scaled.width, scaled.height, canvas.width, canvas.height]) expect(v % 2).toBe(0);
      expect(scaled.width <= width && scaled.height <= height).toBe(true);
      expect(canvas.width >= scaled.width && canvas.height >= scaled.height).toBe(true);
      const { box, shape } = destination.video;
      if (box) expect(canvas.width <= box.width + 2 && canvas.height <= box.height + 2).toBe(true);
      if (shape)
        expect(Math.abs(canvas.width * shape.height - canvas.height * shape.width)).toBeLessThanOrEqual(36);
    }),
  );
});

it('destinations are plain data that survives JSON', () => {
  for (const destination of DESTINATIONS)
    expect(Destination.parse(JSON.parse(JSON.stringify(destination)))).toEqual(destination);
});

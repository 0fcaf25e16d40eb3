import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type FrameRate, frameTimeUs } from '@/core/base/rational';
import { mayDraw } from './draw-pace';

const SECONDS = 3;
const RATES: FrameRate[] = [
  { num: 24, den: 1 },
  { num: 30, den: 1 },
  { num: 30000, den: 1001 },
  { num: 60, den: 1 },
];

/** Places in time, µs, at an even distance from a phase on. */
const every = (distanceUs: number, phaseUs: number): number[] =>
  Array.from({ length: Math.floor((SECONDS * 1e6) / distanceUs) }, (_, n) => phaseUs + n * distanceUs);

const cases = fc
  .record({ rate: fc.constantFrom(...RATES), hertz: fc.constantFrom(60, 75, 120, 144) })
  .chain(({ rate, hertz }) => {
    const phase = fc.integer({ min: 0, max: frameTimeUs(1, rate) });
    return fc.record({
      ...{ rate: fc.constant(rate), hertz: fc.constant(hertz) },
      ...{ display: phase, screen: phase, camera: phase },
    });
  });

it('draws screen and camera together, about once a frame, and leaves no picture out', () => {
  fc.assert(
    fc.property(cases, ({ rate, hertz, display, screen, camera }) => {
      const frameUs = 1e6 / (rate.num / rate.den);
      const lanes = [screen, camera].map((phase) => ({ due: every(frameUs, phase), skipped: 0, lateUs: 0 }));
      let drawnUs = Number.NEGATIVE_INFINITY;
      let draws = 0;
      for (const nowUs of every(1e6 / hertz, display)) {
        if (!mayDraw(drawnUs, nowUs, rate)) continue;
        const taken = lanes.map((lane) => {
          const later = lane.due.findIndex((us) => us > nowUs);
          const due = lane.due.splice(0, later < 0 ? lane.due.length : later);
          // What was due before the display began is nobody's loss.
          if (draws > 0) {
            lane.skipped += Math.max(0, due.length - 1);
            for (const us of due) lane.lateUs = Math.max(lane.lateUs, nowUs - us);
          }
          return due.length;
        });
        if (Math.max(...taken) === 0) continue;
        drawnUs = nowUs;
        draws++;
      }
      expect(draws).toBeLessThanOrEqual(SECONDS * (rate.num / rate.den) * 1.34 + 1);
      for (const { skipped, lateUs } of lanes) {
        expect(skipped).toBe(0);
        expect(lateUs).toBeLessThanOrEqual(0.75 * frameUs + 1e6 / hertz);
      }
    }),
  );
});

it('draws at once where another piece begins', () => {
  for (const rate of RATES) expect(mayDraw(Number.NEGATIVE_INFINITY, 0, rate)).toBe(true);
});

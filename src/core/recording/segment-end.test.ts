import fc from 'fast-check';
import { expect, it } from 'vitest';
import { segmentEndUs } from './segment-end';

it('ends one packet after the last, never before it, and at most the repeat interval of a still picture later', () => {
  const times = fc
    .array(fc.integer({ min: 0, max: 5_000_000 }), { minLength: 1, maxLength: 20 })
    .map((gaps) => {
      let us = 0;
      return gaps.map((gap) => {
        us += gap;
        return us;
      });
    });
  fc.assert(
    fc.property(times, (timesUs) => {
      const lastUs = timesUs.at(-1) ?? 0;
      const endUs = segmentEndUs(timesUs);
      expect(endUs).toBeGreaterThanOrEqual(lastUs);
      expect(endUs - lastUs).toBeLessThanOrEqual(1_200_000);
      // An even track ends where its next packet would have come.
      const even = timesUs.map((_, n) => n * 33_333);
      expect(segmentEndUs(even)).toBe(even.length > 1 ? even.length * 33_333 : 0);
    }),
  );
  expect(segmentEndUs([])).toBe(0);
});

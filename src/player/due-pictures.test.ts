import fc from 'fast-check';
import { expect, it } from 'vitest';
import { picturesToTake } from './due-pictures';

const FRAME_US = 1e6 / 30;
const LATE_US = 50_000;

it('takes what is due, lets the newest wait where an older one would never be seen, and takes all where nothing follows', () => {
  expect(picturesToTake([], 100)).toBe(0);
  expect(picturesToTake([200_000], 100_000)).toBe(0);
  expect(picturesToTake([100_000], 100_000)).toBe(1);
  expect(picturesToTake([66_000, 99_000, 133_000], 100_000)).toBe(1);
  expect(picturesToTake([66_000, 99_000, 133_000], 100_000, false)).toBe(2);
  // Long overdue: those before it are given up.
  expect(picturesToTake([0, 33_000, 66_000, 99_000], 100_000)).toBe(3);
  expect(picturesToTake([0, 33_000, 66_000], 100_000)).toBe(3);
});

/** Drawings once a frame, each a little early or late, whatever their phase. */
const cases = fc.record({
  phaseUs: fc.integer({ min: 0, max: Math.floor(FRAME_US) }),
  jitters: fc.array(fc.integer({ min: -7_000, max: 7_000 }), { minLength: 60, maxLength: 60 }),
});

const pictures = Array.from({ length: 80 }, (_, n) => Math.round(n * FRAME_US));

it('shows every picture within its time when drawings are unsteady; taking all that is due does not', () => {
  let leftOutByAll = 0;
  fc.assert(
    fc.property(cases, ({ phaseUs, jitters }) => {
      const drawings = jitters.map((jitter, n) => Math.round(FRAME_US * (n + 1)) + phaseUs + jitter);
      const leftOut = (take: (waiting: number[], nowUs: number) => number) => {
        const waiting = pictures.filter((us) => us > phaseUs);
        let missed = 0;
        for (const nowUs of drawings) {
          const taken = waiting.splice(0, take(waiting, nowUs));
          const shown = taken.at(-1);
          if (shown !== undefined) missed += taken.length - (nowUs - shown <= LATE_US ? 1 : 0);
        }
        return missed;
      };
      expect(leftOut(picturesToTake)).toBe(0);
      leftOutByAll += leftOut((waiting, nowUs) => waiting.filter((us) => us <= nowUs).length);
    }),
  );
  expect(leftOutByAll).toBeGreaterThan(0);
});

it('never shows a picture before its time, and leaves none that is overdue', () => {
  const times = fc.uniqueArray(fc.integer({ min: 0, max: 300_000 })).map((all) => all.sort((a, b) => a - b));
  fc.assert(
    fc.property(times, fc.integer({ min: 0, max: 300_000 }), fc.boolean(), (all, nowUs, waits) => {
      const taken = picturesToTake(all, nowUs, waits);
      for (const us of all.slice(0, taken)) expect(us).toBeLessThanOrEqual(nowUs);
      for (const us of all.slice(taken)) expect(us).toBeGreaterThan(nowUs - (waits ? 16_000 : 0));
      expect(taken > 0).toBe(all.some((us) => us <= nowUs));
    }),
  );
});

import fc from 'fast-check';
import { expect, it } from 'vitest';
import { openKeyRhythm } from './key-rhythm';

const RATE = { num: 30, den: 1 };
const FRAME_US = 1e6 / 30;

it('makes the first picture of every segment a keyframe, whenever it comes', () => {
  const rhythm = openKeyRhythm({ keyframeEvery: { unit: 'seconds', value: 2 }, frameRate: RATE });
  const [a, b] = [{}, {}];
  expect([0, 1, 2].map((n) => rhythm.isDue(n * FRAME_US, a))).toEqual([true, false, false]);
  expect([3, 4].map((n) => rhythm.isDue(n * FRAME_US, b))).toEqual([true, false]);
});

it('counts exactly where the rig counts pictures, and is right to the nearest picture where it counts seconds', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 120 }),
      fc.integer({ min: 1, max: 10 }),
      fc.array(fc.integer({ min: -9_000, max: 9_000 }), { minLength: 400, maxLength: 400 }),
      (every, seconds, jitter) => {
        const segment = {};
        const counted = openKeyRhythm({ keyframeEvery: { unit: 'frames', value: every }, frameRate: RATE });
        const timed = openKeyRhythm({ keyframeEvery: { unit: 'seconds', value: seconds }, frameRate: RATE });
        let lastUs = 0;
        for (const [n, off] of jitter.entries()) {
          const tUs = Math.max(0, n * FRAME_US + off);
          expect(counted.isDue(tUs, segment)).toBe(n % every === 0);
          if (!timed.isDue(tUs, segment)) continue;
          const offUs = n === 0 ? 0 : tUs - lastUs - seconds * 1e6;
          // At most half a picture early; late by that and what the picture before lacked (both jitters). 1 µs for rounding.
          expect(offUs).toBeGreaterThanOrEqual(-FRAME_US / 2 - 1);
          expect(offUs).toBeLessThanOrEqual(FRAME_US / 2 + 18_000 + 1);
          lastUs = tUs;
        }
      },
    ),
  );
});

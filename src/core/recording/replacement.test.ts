import fc from 'fast-check';
import { expect, it } from 'vitest';
import { afterFailure } from './replacement';

const SECOND = 1_000_000;

it('goes further from the rig with each failure of one bout, and ends the track after the last way', () => {
  const at = (n: number) => Array.from({ length: n }, (_, i) => i * SECOND);
  expect([1, 2, 3, 4].map((n) => afterFailure(at(n), true))).toEqual([
    'same',
    'software',
    'other-codec',
    'end',
  ]);
  expect([1, 2, 3].map((n) => afterFailure(at(n), false))).toEqual(['same', 'software', 'end']);
});

it('never ends a track whose failures are ten seconds apart, however many there are', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 10 * SECOND, max: 600 * SECOND }), { minLength: 1, maxLength: 50 }),
      fc.boolean(),
      (distances, hasOther) => {
        let now = 0;
        const failures = distances.map((distance) => {
          now += distance;
          return now;
        });
        expect(afterFailure(failures, hasOther)).toBe('same');
      },
    ),
  );
});

it('always comes to an end when nothing it tries works', () => {
  fc.assert(
    fc.property(
      fc.array(fc.nat(100_000), { minLength: 4, maxLength: 20 }),
      fc.boolean(),
      (gaps, hasOther) => {
        let now = 0;
        const failures = gaps.map((gap) => {
          now += gap;
          return now;
        });
        expect(afterFailure(failures, hasOther)).toBe('end');
      },
    ),
  );
});

import fc from 'fast-check';
import { expect, it } from 'vitest';
import { PRACTICE_RIG } from '../rig/rig';
import { COLUMNS, cellsOf, looked, NO_ACTIVITY, ROWS, shareUnder } from './activity';
import { fitted } from './fit';

const SOURCE = { width: 1280, height: 720 };
const FIT = fitted({ ...PRACTICE_RIG.picture, box: null }, SOURCE);
const flat = (level: number) => new Float32Array(COLUMNS * ROWS).fill(level);

it('is the mean brightness of each cell, whatever the stride', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 64 }), fc.integer({ min: 0, max: 255 }), (extra, level) => {
      const size = { width: 4 * COLUMNS, height: 4 * ROWS };
      const stride = size.width + extra;
      // What lies beside the picture in memory is not looked at.
      const luma = new Uint8Array(stride * size.height).fill(255 - level);
      for (let y = 0; y < size.height; y++) luma.fill(level, y * stride, y * stride + size.width);
      expect([...new Set(cellsOf(luma, size, stride))]).toEqual([level]);
    }),
  );
});

it('counts cells that change by more than noise, and forgets them with time', () => {
  const now = flat(100);
  now[5] = 101.4;
  now[6] = 102;
  const once = looked(NO_ACTIVITY, flat(100), now);
  expect(once.changes.flatMap((count, cell) => (count > 0 ? [cell] : []))).toEqual([6]);
  const later = Array.from({ length: 60 }).reduce<typeof once>(
    (activity) => looked(activity, now, now),
    once,
  );
  expect(later.changes[6]).toBeGreaterThan(0);
  expect(later.changes[6]).toBeLessThan(0.35);
  expect(later.looks).toBe(61);
});

it('shares what changes among the parts of a picture: they add up to all of it', () => {
  const half = { y: 0, width: SOURCE.width / 2, height: SOURCE.height };
  fc.assert(
    fc.property(fc.array(fc.nat(COLUMNS * ROWS - 1), { minLength: 1, maxLength: 40 }), (cells) => {
      const changes = NO_ACTIVITY.changes.map((_, cell) => (cells.includes(cell) ? 1 : 0));
      const activity = { ...NO_ACTIVITY, changes };
      const left = shareUnder(activity, SOURCE, FIT, { x: 0, ...half });
      const right = shareUnder(activity, SOURCE, FIT, { x: half.width, ...half });
      expect(left + right).toBeCloseTo(1);
      const wanted = new Set(cells.filter((cell) => cell % COLUMNS < COLUMNS / 2)).size / new Set(cells).size;
      expect(left).toBeCloseTo(wanted);
    }),
  );
  expect(shareUnder(NO_ACTIVITY, SOURCE, FIT, { x: 0, ...half })).toBe(0);
});

import fc from 'fast-check';
import { expect, it } from 'vitest';
import { plainCut } from '../../../tests/support/made-up';
import { newTakeId } from '../base/ids';
import { viewAt, views } from './area';
import { remove } from './edits';
import { accept } from './proposals';
import { zoomsToClicks } from './zooms-to-clicks';

const id = newTakeId();
const S = 1_000_000;
const LENGTH_S = 60;
const whole = plainCut(id, [{ take: id, inUs: 0, outUs: LENGTH_S * S }]);
const click = (s: number, x: number, y: number) => ({ atUs: s * S, x, y });
const found = (clicks: ReturnType<typeof click>[], keysS: number[] = [], cut = whole) =>
  zoomsToClicks(cut, new Map([[id, { clicks, keysUs: keysS.map((s) => s * S) }]]));
const shown = (list: ReturnType<typeof found>) =>
  list.map(({ zoom: { fromUs, toUs, area } }) => [fromUs / S, toUs / S, area.x, area.y]);

it('zooms to a click, stays while somebody types, and takes clicks that are near one another together', () => {
  expect(shown(found([click(10, 0.5, 0.5)]))).toEqual([[9.1, 12.5, 0.25, 0.25]]);
  expect(shown(found([click(10, 0.5, 0.5)], [11, 14, 17.5, 30]))).toEqual([[9.1, 19, 0.25, 0.25]]);
  expect(shown(found([click(10, 0.4, 0.5), click(13, 0.6, 0.5)]))).toEqual([[9.1, 15.5, 0.25, 0.25]]);
  // At the edge of the screen it stays inside.
  expect(shown(found([click(10, 0.98, 0.02)]))).toEqual([[9.1, 12.5, 0.5, 0]]);
});

it('moves straight on to a place that is far away', () => {
  expect(shown(found([click(10, 0.1, 0.1), click(12.4, 0.9, 0.9)]))).toEqual([
    [9.1, 11.5, 0, 0],
    [11.5, 14.9, 0.5, 0.5],
  ]);
  // There is no time to go there: neither is zoomed to, so that both are seen.
  expect(found([click(10, 0.1, 0.1), click(10.4, 0.9, 0.9)])).toEqual([]);
});

it('keeps off zooms that are there, and zooms to what the cut still shows', () => {
  const zoomed = accept(whole, found([click(10, 0.5, 0.5)]));
  expect(zoomed.steps[0]?.zooms).toHaveLength(1);
  expect(found([click(10, 0.5, 0.5)], [], zoomed)).toEqual([]);
  expect(found([click(10, 0.5, 0.5)], [], remove(whole, 9 * S, 11 * S))).toEqual([]);
  expect(shown(found([click(10, 0.5, 0.5)], [], remove(whole, 2 * S, 5 * S)))).toEqual([
    [6.1, 9.5, 0.25, 0.25],
  ]);
});

it('never hides a click, never overlaps, and zooms to some', () => {
  const Clicks = fc.array(
    fc.record({
      // A piece ends before its out: a click there is in no picture.
      atUs: fc.integer({ min: 0, max: LENGTH_S * S - 1 }),
      x: fc.double({ min: 0, max: 1, noNaN: true }),
      y: fc.double({ min: 0, max: 1, noNaN: true }),
    }),
    { maxLength: 12 },
  );
  let zoomed = 0;
  fc.assert(
    fc.property(
      Clicks,
      fc.array(fc.integer({ min: 0, max: LENGTH_S }), { maxLength: 20 }),
      (clicks, keysS) => {
        const list = found(
          [...clicks].sort((a, b) => a.atUs - b.atUs),
          keysS.sort((a, b) => a - b),
        );
        const zooms = list.map(({ zoom }) => zoom);
        const keys = views(zooms, LENGTH_S * S);
        zooms.forEach(({ fromUs, toUs, area }, i) => {
          expect(fromUs).toBeGreaterThanOrEqual(zooms[i - 1]?.toUs ?? 0);
          expect(toUs).toBeLessThanOrEqual(LENGTH_S * S);
          expect(area.x + area.width).toBeLessThanOrEqual(1);
          expect(area.y + area.height).toBeLessThanOrEqual(1);
        });
        for (const { atUs, x, y } of clicks) {
          const seen = viewAt(keys, atUs);
          if (seen.width < 1) zoomed++;
          expect(x).toBeGreaterThanOrEqual(seen.x - 1e-9);
          expect(x).toBeLessThanOrEqual(seen.x + seen.width + 1e-9);
          expect(y).toBeGreaterThanOrEqual(seen.y - 1e-9);
          expect(y).toBeLessThanOrEqual(seen.y + seen.height + 1e-9);
        }
      },
    ),
    { numRuns: 500 },
  );
  expect(zoomed).toBeGreaterThan(100);
});

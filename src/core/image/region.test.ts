import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  follow,
  LEAST_SIDE,
  moveRegion,
  type Region,
  regionWithin,
  resizeRegion,
  snapRegion,
} from './region';

const SOURCE = { width: 1920, height: 1080 };
const region: fc.Arbitrary<Region> = fc
  .record({
    x: fc.integer({ min: -500, max: 2500 }),
    y: fc.integer({ min: -500, max: 2500 }),
    width: fc.integer({ min: 1, max: 3000 }),
    height: fc.integer({ min: 1, max: 3000 }),
  })
  .map((rect) => regionWithin(rect, SOURCE));
const way = fc.integer({ min: -3000, max: 3000 });

/** Inside the source, on even pixels, and large enough to be encoded. */
function expectUsable({ x, y, width, height }: Region) {
  for (const side of [x, y, width, height]) expect(side % 2).toBe(0);
  expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
  expect(x + width).toBeLessThanOrEqual(SOURCE.width);
  expect(y + height).toBeLessThanOrEqual(SOURCE.height);
  expect(Math.min(width, height)).toBeGreaterThanOrEqual(LEAST_SIDE);
}

describe('a region', () => {
  it('stays usable wherever it is moved, drawn and snapped; moving keeps its size', () => {
    const handle = fc.constantFrom<-1 | 0 | 1>(-1, 0, 1);
    fc.assert(
      fc.property(region, way, way, handle, handle, region, (from, dx, dy, h, v, edge) => {
        const moved = moveRegion(from, dx, dy, SOURCE);
        expectUsable(moved);
        expect([moved.width, moved.height]).toEqual([from.width, from.height]);
        expectUsable(resizeRegion(from, { h, v }, dx, dy, SOURCE));
        expectUsable(snapRegion(from, [edge], 12, SOURCE));
      }),
    );
  });

  it('keeps the edges that are not drawn, and its shape where that is asked', () => {
    fc.assert(
      fc.property(region, way, way, (from, dx, dy) => {
        const right = resizeRegion(from, { h: 1, v: 0 }, dx, dy, SOURCE);
        expect([right.x, right.y, right.height]).toEqual([from.x, from.y, from.height]);
        const left = resizeRegion(from, { h: -1, v: 0 }, dx, dy, SOURCE);
        expect(left.x + left.width).toBe(from.x + from.width);
        const wide = resizeRegion(
          { ...from, width: 320, height: 180 },
          { h: 1, v: 1 },
          dx,
          dy,
          SOURCE,
          16 / 9,
        );
        // Even sides, and none under the least: as near to the shape as those allow.
        if (wide.height > LEAST_SIDE)
          expect(Math.abs(wide.width - (wide.height * 16) / 9)).toBeLessThanOrEqual(4);
      }),
    );
  });

  it('snaps to an edge that is near and to none that is not', () => {
    const edges = [{ x: 400, y: 300, width: 600, height: 400 }];
    expect(snapRegion({ x: 406, y: 292, width: 598, height: 404 }, edges, 10, SOURCE)).toEqual(edges[0]);
    const far = { x: 420, y: 330, width: 500, height: 300 };
    expect(snapRegion(far, edges, 10, SOURCE)).toEqual(far);
  });
});

describe('a region that follows the pointer', () => {
  const HOW = { speed: 1500, dead: 0.3 };
  const start = { x: 100, y: 100, width: 640, height: 360 };
  /** Where it is picture after picture, while the pointer stands. */
  const path = (pointer: { x: number; y: number }, seconds: number, pictures: number) => {
    const places = [start];
    for (let n = 1; n < pictures; n++)
      places.push(follow(places[n - 1] ?? start, pointer, SOURCE, HOW, seconds));
    return places;
  };

  it('rests while the pointer is in its dead zone', () => {
    const inside = { x: start.x + 320 + 90, y: start.y + 180 - 50 };
    expect(path(inside, 1 / 30, 30).at(-1)).toEqual(start);
  });

  it('never goes faster than it may, gets there without turning back, and slows down evenly', () => {
    fc.assert(
      fc.property(fc.integer({ min: 400, max: 1900 }), fc.integer({ min: 15, max: 60 }), (x, rate) => {
        const places = path({ x, y: 280 }, 1 / rate, rate * 4);
        const steps = places.slice(1).map(({ x }, i) => x - (places[i]?.x ?? 0));
        for (const step of steps) {
          expect(step).toBeGreaterThanOrEqual(0);
          expect(step).toBeLessThanOrEqual(HOW.speed / rate + 1e-9);
        }
        // Once it begins to slow down each step is the same share of the one before: no jerk.
        const slowing = steps.findIndex((step) => step < HOW.speed / rate - 1e-6);
        for (let n = slowing + 1; n < steps.length; n++)
          expect(steps[n] ?? 0).toBeLessThanOrEqual((steps[n - 1] ?? 0) + 1e-9);
        // The pointer is within the dead zone's edge in the end, or the source's edge is reached.
        const last = places.at(-1) ?? start;
        const off = Math.abs(x - (last.x + last.width / 2));
        if (last.x < SOURCE.width - last.width - 1)
          expect(off).toBeLessThanOrEqual((last.width * HOW.dead) / 2 + 1);
      }),
    );
  });

  it('takes the same way at any frame rate: after a second it is where it would be', () => {
    const at = (rate: number) => path({ x: 1500, y: 700 }, 1 / rate, rate + 1).at(-1) ?? start;
    for (const rate of [15, 25, 60]) {
      expect(Math.abs(at(rate).x - at(30).x)).toBeLessThan(12);
      expect(Math.abs(at(rate).y - at(30).y)).toBeLessThan(12);
    }
  });
});

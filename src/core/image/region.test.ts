import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Size } from '../base/sizes';
import {
  follow,
  type Handle,
  LEAST_SIDE,
  moveRegion,
  type Region,
  regionWithin,
  resizeRegion,
  snapRegion,
} from './region';

const SOURCE = { width: 1920, height: 1080 };
const half = (least: number, most: number) => fc.integer({ min: least / 2, max: most / 2 }).map((n) => 2 * n);
const size = fc.record({ width: half(64, 4096), height: half(64, 4096) });
const wilds = fc.record({
  x: half(0, 4096),
  y: half(0, 4096),
  width: half(LEAST_SIDE, 4096),
  height: half(LEAST_SIDE, 4096),
});

/** Inside the source, on even pixels, and large enough to be encoded. */
const expectInside = ({ x, y, width, height }: Region, outer: Size) => {
  for (const v of [x, y, width, height]) expect(v % 2).toBe(0);
  expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
  expect(x + width).toBeLessThanOrEqual(outer.width);
  expect(y + height).toBeLessThanOrEqual(outer.height);
  expect(Math.min(width, height)).toBeGreaterThanOrEqual(LEAST_SIDE);
};

it('moves and resizes a region inside its source, on even pixels, with the other edges where they were', () => {
  const handles = fc.record({ h: fc.constantFrom(-1, 0, 1), v: fc.constantFrom(-1, 0, 1) });
  const by = fc.integer({ min: -5000, max: 5000 });
  const aspects = fc.option(fc.constantFrom(16 / 9, 1, 9 / 16));
  fc.assert(
    fc.property(size, wilds, handles, by, by, aspects, (source, wild, handle, dx, dy, aspect) => {
      const start = moveRegion(wild as Region, 0, 0, source);
      expectInside(start, source);
      expectInside(moveRegion(start, dx, dy, source), source);
      expect(moveRegion(start, dx, dy, source)).toMatchObject({ width: start.width, height: start.height });
      const drawn = resizeRegion(start, handle as Handle, dx, dy, source, aspect);
      expectInside(drawn, source);
      if (aspect === null && handle.h <= 0) expect(drawn.x + drawn.width).toBe(start.x + start.width);
      if (aspect === null && handle.h >= 0) expect(drawn.x).toBe(start.x);
      if (
        aspect !== null &&
        (handle.h !== 0 || handle.v !== 0) &&
        Math.min(drawn.width, drawn.height) > LEAST_SIDE
      )
        expect(Math.abs(drawn.width - drawn.height * aspect)).toBeLessThanOrEqual(2 + 2 * aspect);
    }),
  );
});

it('jumps to the edges of windows that are near, and to no others', () => {
  const source = { width: 1920, height: 1080 };
  const windows = [{ x: 200, y: 100, width: 1000, height: 700 }];
  expect(snapRegion({ x: 206, y: 92, width: 990, height: 712 }, windows, 12, source)).toEqual(windows[0]);
  const far = { x: 300, y: 300, width: 400, height: 400 };
  expect(snapRegion(far, windows, 12, source)).toEqual(far);
  // Whatever it jumps to, it stays one that can be encoded.
  fc.assert(
    fc.property(wilds, wilds, (from, edge) =>
      expectInside(snapRegion(regionWithin(from, source), [edge], 40, source), source),
    ),
  );
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

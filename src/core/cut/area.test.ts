import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { area, zooms } from '../../../tests/support/made-up';
import {
  type Area,
  blurredSize,
  evenRect,
  spansBetween,
  spansLater,
  viewAt,
  views,
  WHOLE,
  type Zoom,
} from './area';

const STEP_US = 20_000_000;
const at = fc.integer({ min: 0, max: STEP_US });
const inside = ({ x, y, width, height }: Area) => {
  expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
  expect(Math.max(x + width, y + height)).toBeLessThanOrEqual(1 + 1e-9);
};
const near = (a: Area, b: Area, within: number) => {
  for (const key of ['x', 'y', 'width', 'height'] as const)
    expect(Math.abs(a[key] - b[key]), key).toBeLessThanOrEqual(within);
};

describe('zooms', () => {
  it('come in order, never leave the picture, and are whole where nothing is zoomed', () => {
    fc.assert(
      fc.property(zooms, at, (zooms, us) => {
        const keys = views(zooms, STEP_US);
        expect(keys.map(({ atUs }) => atUs)).toEqual(keys.map(({ atUs }) => atUs).sort((a, b) => a - b));
        const seen = viewAt(keys, us);
        inside(seen);
        if (!zooms.some(({ fromUs, toUs }) => fromUs <= us && us <= toUs)) expect(seen).toEqual(WHOLE);
      }),
    );
  });

  it('show just their area once the picture has arrived there', () => {
    fc.assert(
      fc.property(zooms, (zooms) => {
        for (const { fromUs, toUs, area } of zooms) {
          if (toUs > STEP_US) continue;
          near(viewAt(views(zooms, STEP_US), Math.floor((fromUs + toUs) / 2)), area, 1e-4);
        }
      }),
    );
  });

  it('never jump but where they are asked to: an instant later the picture is almost where it was', () => {
    fc.assert(
      fc.property(zooms, at, (zooms, us) => {
        const slow = zooms.map((zoom) => ({ ...zoom, easeUs: 3_000_000 }));
        const long = slow.every(({ fromUs, toUs }) => toUs - fromUs > 1_000_000);
        if (!long) return;
        const keys = views(slow, STEP_US);
        near(viewAt(keys, us), viewAt(keys, us + 1000), 0.005);
      }),
    );
  });

  it('are seen the same when their step is split where the picture does not move', () => {
    const zoom: Zoom = {
      fromUs: 2_000_000,
      toUs: 8_000_000,
      area: { x: 0.5, y: 0, width: 0.5, height: 0.5 },
      easeUs: 600_000,
    };
    fc.assert(
      fc.property(fc.integer({ min: 2_600_000, max: 7_400_000 }), at, (splitUs, us) => {
        const [first, second] = [spansBetween([zoom], 0, splitUs), spansBetween([zoom], splitUs, STEP_US)];
        const seen =
          us < splitUs
            ? viewAt(views(first, splitUs), us)
            : viewAt(views(second, STEP_US - splitUs), us - splitUs);
        // Half of a short rest moves: no zoom eases longer than half of it.
        const eases = [splitUs - 2_000_000, 8_000_000 - splitUs].every((rest) => rest >= 1_200_000);
        if (eases) near(seen, viewAt(views([zoom], STEP_US), us), 1e-9);
      }),
    );
  });

  it('go straight from one to the other where they touch', () => {
    const one: Zoom = {
      fromUs: 1_000_000,
      toUs: 3_000_000,
      area: { x: 0, y: 0, width: 0.25, height: 0.25 },
      easeUs: 500_000,
    };
    const two: Zoom = {
      ...one,
      fromUs: 3_000_000,
      toUs: 5_000_000,
      area: { x: 0.75, y: 0.75, width: 0.25, height: 0.25 },
    };
    const keys = views([two, one], STEP_US);
    for (let us = 1_500_000; us <= 4_500_000; us += 50_000) expect(viewAt(keys, us).width).toBeCloseTo(0.25);
    expect(viewAt(keys, 3_250_000)).toMatchObject({ x: 0.375, y: 0.375 });
    expect(viewAt(keys, 6_000_000)).toEqual(WHOLE);
  });
});

it('spans keep their lengths when they are taken apart and put together again', () => {
  fc.assert(
    fc.property(zooms, fc.integer({ min: 0, max: STEP_US }), (zooms, splitUs) => {
      const parts = [
        ...spansBetween(zooms, 0, splitUs),
        ...spansLater(spansBetween(zooms, splitUs, Number.MAX_SAFE_INTEGER), splitUs),
      ];
      const length = (spans: readonly Zoom[]) =>
        spans.reduce((sum, { fromUs, toUs }) => sum + toUs - fromUs, 0);
      expect(length(parts)).toBe(length(zooms));
    }),
  );
});

it('a covered area holds all of itself, in even pixels inside the picture', () => {
  const size = fc.record({
    width: fc.integer({ min: 16, max: 4000 }),
    height: fc.integer({ min: 16, max: 4000 }),
  });
  fc.assert(
    fc.property(area, size, (area, size) => {
      const { x, y, width, height } = evenRect(area, size);
      for (const each of [x, y, width, height]) expect(each % 2).toBe(0);
      expect(x).toBeLessThanOrEqual(area.x * size.width + 1e-6);
      expect(y).toBeLessThanOrEqual(area.y * size.height + 1e-6);
      const [right, bottom] = [(area.x + area.width) * size.width, (area.y + area.height) * size.height];
      expect(x + width).toBeGreaterThanOrEqual(Math.min(right, 2 * Math.floor(size.width / 2)) - 1e-3);
      expect(y + height).toBeGreaterThanOrEqual(Math.min(bottom, 2 * Math.floor(size.height / 2)) - 1e-3);
      expect(x + width).toBeLessThanOrEqual(size.width);
      expect(y + height).toBeLessThanOrEqual(size.height);
    }),
  );
});

it('of a blurred line of text less is left than letters need, however large it is', () => {
  for (const height of [16, 30, 60, 120, 400]) {
    const left = blurredSize({ width: 10 * height, height });
    expect(height / left.height).toBeGreaterThanOrEqual(Math.min(8, height / 2));
    expect(left.height).toBeLessThanOrEqual(4);
  }
});

import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Size } from '../base/sizes';
import { LEAST_SIDE, type Region } from '../image/region';
import { sizeDifference } from '../image/subject-size';
import { fitted, hasBars, oneToOneBox } from './fit';

const half = (least: number, most: number) => fc.integer({ min: least / 2, max: most / 2 }).map((n) => 2 * n);
const size = fc.record({ width: half(64, 4096), height: half(64, 4096) });
const region = fc.record({
  x: half(0, 4096),
  y: half(0, 4096),
  width: half(LEAST_SIDE, 4096),
  height: half(LEAST_SIDE, 4096),
});
const fits = fc.constantFrom('within', 'letterbox', 'fill', 'stretch' as const);
const aims = fc.oneof(fc.constant('whole' as const), region);

const expectInside = ({ x, y, width, height }: Region, outer: Size) => {
  for (const v of [x, y, width, height]) expect(v % 2).toBe(0);
  expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
  expect(x + width).toBeLessThanOrEqual(outer.width);
  expect(y + height).toBeLessThanOrEqual(outer.height);
};

it('keeps what is shown inside the source and the picture, even, in its shape, and enlarges only where it is stretched', () => {
  fc.assert(
    fc.property(size, fc.option(size), fits, aims, (source, box, fit, aim) => {
      const made = fitted({ aim, box, fit }, source);
      expectInside(made.crop, source);
      expectInside(made.at, made.size);
      expect(Math.min(made.crop.width, made.crop.height)).toBeGreaterThan(0);
      if (!box) expect([made.scale, hasBars(made)]).toEqual([1, false]);
      if (box && (fit === 'letterbox' || fit === 'stretch')) expect(made.size).toEqual(box);
      if (fit !== 'letterbox') expect(hasBars(made)).toBe(false);
      if (box && fit === 'stretch') return;
      const [across, down] = [made.at.width / made.crop.width, made.at.height / made.crop.height];
      // Even sides move each edge by a pixel at most.
      expect(Math.abs(across - down) * Math.min(made.crop.width, made.crop.height)).toBeLessThanOrEqual(6);
      expect(Math.max(across, down)).toBeLessThanOrEqual(1 + 2 / Math.min(made.crop.width, made.crop.height));
    }),
  );
  const full = { width: 1920, height: 1080 };
  const box = { width: 1080, height: 1080 };
  expect(fitted({ aim: 'whole', box, fit: 'within' }, full).size).toEqual({ width: 1080, height: 608 });
  expect(fitted({ aim: 'whole', box, fit: 'letterbox' }, full).at).toEqual({
    x: 0,
    y: 236,
    width: 1080,
    height: 608,
  });
  expect(fitted({ aim: 'whole', box, fit: 'fill' }, full).crop).toEqual({
    x: 420,
    y: 0,
    width: 1080,
    height: 1080,
  });
});

it('records one to one without giving up the chosen shape', () => {
  fc.assert(
    fc.property(size, size, fits, aims, (source, box, fit, aim) => {
      const next = oneToOneBox({ aim, box, fit }, source);
      if (fit === 'within' || fit === 'stretch') expect(next).toBeNull();
      if (!next) return;
      const made = fitted({ aim, box: next, fit }, source);
      expect(made.scale).toBe(1);
      expect([made.at.width, made.at.height]).toEqual([made.crop.width, made.crop.height]);
      // Even sides move a shape by a pixel or two of its shorter side.
      const short = Math.min(next.width, next.height, made.crop.width, made.crop.height);
      expect(Math.abs(next.width / next.height / (box.width / box.height) - 1)).toBeLessThanOrEqual(
        6 / short,
      );
    }),
  );
  const square = { width: 1080, height: 1080 };
  const full = { width: 2560, height: 1440 };
  expect(oneToOneBox({ aim: 'whole', box: square, fit: 'fill' }, full)).toEqual({
    width: 1440,
    height: 1440,
  });
  expect(oneToOneBox({ aim: 'whole', box: square, fit: 'letterbox' }, full)).toEqual({
    width: 2560,
    height: 2560,
  });
});

it('says what a window lacks to fill the picture one to one', () => {
  const wanted = { width: 1280, height: 720 };
  expect(sizeDifference({ width: 1264, height: 681 }, wanted)).toBe('16 wider and 39 taller');
  expect(sizeDifference({ width: 1300, height: 720 }, wanted)).toBe('20 narrower');
  expect(sizeDifference(wanted, wanted)).toBeNull();
});

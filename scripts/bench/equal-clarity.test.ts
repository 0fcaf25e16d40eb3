import { expect, it } from 'vitest';
import { bytesAt, clarityOf, geometricMean, referenceOf } from './equal-clarity';

const point = (bytes: number, mean: number, worst = mean - 0.005) => ({ bytes, mean, worst });

it('finds measured points again, lies between them elsewhere, and takes the stricter of mean and worst', () => {
  const points = [point(400, 0.999), point(200, 0.996), point(100, 0.985)];
  expect(bytesAt(points, { mean: 0.996, worst: 0 })).toBeCloseTo(200);
  const between = bytesAt(points, { mean: 0.99, worst: 0 });
  expect(between).toBeGreaterThan(100);
  expect(between).toBeLessThan(200);
  expect(bytesAt(points, { mean: 0.98, worst: 0 })).toBe(100);
  expect(bytesAt(points, { mean: 0.9995, worst: 0 })).toBeGreaterThan(400);
  expect(bytesAt(points, { mean: 0.985, worst: 0.991 })).toBeCloseTo(200);
});

it('averages ratios as ratios', () => {
  expect(geometricMean([0.5, 2])).toBeCloseTo(1);
});

/** A picture with a column of text-like bars, in luma and in colour. */
function bars(contrast: number) {
  const [width, height] = [64, 64];
  const data = new Uint8Array((width * height * 3) / 2).fill(128);
  for (let y = 8; y < 56; y++)
    for (let x = 16; x < 48; x++) if (x % 4 === 0) data[y * width + x] = 128 + contrast;
  return { width, height, data };
}

it('says 1 of the same pictures, less of paler ones, and looks only at those that count', () => {
  const reference = referenceOf([bars(100), bars(100)]);
  expect(clarityOf(reference, [bars(100), bars(100)], [true, true]).text.mean).toBe(1);
  const paler = clarityOf(reference, [bars(100), bars(20)], [true, true]).text;
  expect(paler.mean).toBeLessThan(0.9);
  expect(paler.worst).toBeLessThan(paler.mean);
  expect(clarityOf(reference, [bars(100), bars(20)], [true, false]).text.mean).toBe(1);
});

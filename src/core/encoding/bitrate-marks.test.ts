import { expect, it } from 'vitest';
import { bitrateMarks, expectedKbps } from './bitrate-marks';

const trial = (askedKbps: number, clarity: number, gotKbps = askedKbps) => ({ askedKbps, gotKbps, clarity });

it('finds where text breaks and from where on nothing is gained', () => {
  const marks = bitrateMarks([
    trial(2400, 0.999),
    trial(100, 0.9),
    trial(400, 0.97),
    trial(800, 0.99),
    trial(1600, 0.996),
  ]);
  // Half way between 400 and 800 on the scale that clarity grows with.
  expect(marks.legibilityKbps).toBe(Math.round(Math.sqrt(400 * 800)));
  expect(marks.saturationKbps).toBe(1600);
});

it('says nothing about what was not seen', () => {
  const clear = bitrateMarks([trial(100, 0.99), trial(200, 0.992), trial(400, 0.9999)]);
  expect(clear).toMatchObject({ legibilityKbps: null, saturationKbps: null });
  const never = bitrateMarks([trial(100, 0.8), trial(200, 0.9)]);
  expect(never).toMatchObject({ legibilityKbps: 200, saturationKbps: null });
  expect(() => bitrateMarks([trial(100, 1)])).toThrow(RangeError);
});

it('expects no more than an encoder has to say', () => {
  const marks = bitrateMarks([trial(100, 0.9, 90), trial(1000, 0.99, 300), trial(10_000, 0.999, 320)]);
  expect(expectedKbps(marks, 40_000)).toBe(320);
  expect(expectedKbps(marks, 50)).toBe(50);
  expect(expectedKbps(marks, Math.sqrt(100 * 1000))).toBeCloseTo(195);
});

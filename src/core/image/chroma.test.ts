import fc from 'fast-check';
import { expect, it } from 'vitest';
import { halveColour } from './chroma';
import { type ColourKey, firstKey, keyPixels, keyTables, spillCube } from './colour-key';

const level = fc.integer({ min: 0, max: 255 });
const pixel = fc.tuple(level, level, level);

it('4:2:0 leaves greys and flat colours as they are, and the brightness of everything', () => {
  fc.assert(
    fc.property(pixel, pixel, (a, b) => {
      const size = { width: 2, height: 2 };
      const flat = Uint8ClampedArray.from([a, a, a, a].flatMap((colour) => [...colour, 255]));
      [...halveColour(flat, size).rgba].forEach((value, i) => {
        expect(Math.abs(value - (flat[i] ?? 0))).toBeLessThanOrEqual(1);
      });
      const mixed = Uint8ClampedArray.from([a, b, b, a].flatMap((colour) => [...colour, 255]));
      const { rgba } = halveColour(mixed, size);
      const light = (data: Uint8ClampedArray, i: number) =>
        0.2126 * (data[4 * i] ?? 0) + 0.7152 * (data[4 * i + 1] ?? 0) + 0.0722 * (data[4 * i + 2] ?? 0);
      const clipped = [...rgba].some((value, i) => i % 4 < 3 && (value === 0 || value === 255));
      if (!clipped)
        for (let i = 0; i < 4; i++) expect(Math.abs(light(rgba, i) - light(mixed, i))).toBeLessThan(1.5);
    }),
  );
  expect(() => halveColour(new Uint8ClampedArray(3), { width: 1, height: 1 })).toThrow(RangeError);
});

/** What the cube says of a colour, interpolated along its three edges as a filter does. */
function throughCube(cube: readonly (readonly number[])[], colour: readonly number[]): number[] {
  const place = colour.map((value) => (value * 32) / 255);
  const at = (r: number, g: number, b: number) => cube[(b * 33 + g) * 33 + r] ?? [0, 0, 0];
  const [r0 = 0, g0 = 0, b0 = 0] = place.map((value) => Math.min(31, Math.floor(value)));
  const [fr = 0, fg = 0, fb = 0] = place.map((value) => value - Math.min(31, Math.floor(value)));
  return [0, 1, 2].map((channel) => {
    let sum = 0;
    for (const [dr, wr] of [
      [0, 1 - fr],
      [1, fr],
    ] as const)
      for (const [dg, wg] of [
        [0, 1 - fg],
        [1, fg],
      ] as const)
        for (const [db, wb] of [
          [0, 1 - fb],
          [1, fb],
        ] as const)
          sum += wr * wg * wb * (at(r0 + dr, g0 + dg, b0 + db)[channel] ?? 0);
    return 255 * sum;
  });
}

const KEY: ColourKey = firstKey('#3fae62');
const CUBE = spillCube(KEY)
  .trim()
  .split('\n')
  .slice(1)
  .map((line) => line.split(' ').map(Number));

it('the cube for what is rendered takes the same light away as the player, pixel by pixel', () => {
  expect(CUBE.length).toBe(33 ** 3);
  fc.assert(
    fc.property(pixel, (colour) => {
      const pixels = Uint8ClampedArray.from([...colour, 255]);
      keyPixels(pixels, 1, 1, KEY);
      throughCube(CUBE, colour).forEach((value, channel) => {
        // Between the corners of the cube a bend of the function is cut short by a few levels.
        expect(Math.abs(value - (pixels[channel] ?? 0))).toBeLessThanOrEqual(5);
      });
    }),
    { numRuns: 400 },
  );
});

it('the tables for I420 make the wall invisible and leave what is far from it', () => {
  const { opacity, u, v } = keyTables(KEY);
  const at = (cb: number, cr: number) => (cb << 8) | cr;
  // The wall's own colour differences (BT.709, #3fae62), and a face's.
  expect(opacity[at(100, 86)]).toBeLessThan(60);
  expect(opacity[at(110, 155)]).toBe(255);
  expect([u[at(128, 128)], v[at(128, 128)]]).toEqual([128, 128]);
});

import fc from 'fast-check';
import { expect, it } from 'vitest';
import { layOver, overlayOf } from '../layout/compose-i420';
import { placeCamera } from '../layout/layout';
import { FIRST_PLACE } from '../rig/rig';
import { yuvOfHex } from './bt709';
import { type ColourKey, firstKey, isGreyWall, keyPixels, keyTables } from './colour-key';

const KEY = firstKey('#3fae62');

it('takes the wall away, keeps greys as they are, and makes nothing brighter or darker', () => {
  const level = fc.integer({ min: 0, max: 255 });
  fc.assert(
    fc.property(level, level, level, (r, g, b) => {
      const pixels = new Uint8ClampedArray([r, g, b, 255]);
      keyPixels(pixels, 1, 1, KEY);
      const luma = (p: ArrayLike<number>) =>
        0.2126 * (p[0] ?? 0) + 0.7152 * (p[1] ?? 0) + 0.0722 * (p[2] ?? 0);
      const inside = [...pixels.subarray(0, 3)].every((value) => value > 0 && value < 255);
      if (inside) expect(Math.abs(luma(pixels) - luma([r, g, b]))).toBeLessThan(1.5);
      if (Math.max(r, g, b) - Math.min(r, g, b) < 3)
        expect([...pixels].map((value, i) => Math.abs(value - ([r, g, b, 255][i] ?? 0)) <= 1)).toEqual(
          Array(4).fill(true),
        );
    }),
  );
  const wall = new Uint8ClampedArray([0x3f, 0xae, 0x62, 255]);
  keyPixels(wall, 1, 1, KEY);
  expect(wall[3]).toBe(0);
  expect([isGreyWall('#3fae62'), isGreyWall('#b0aca8')]).toEqual([false, true]);
  expect(() => keyPixels(wall, 2, 1, KEY)).toThrow(RangeError);
});

it('lays a camera over I420 pictures where the layout says, and nowhere else', () => {
  const [size, camera] = [
    { width: 320, height: 180 },
    { width: 64, height: 36 },
  ];
  const flat = ({ width, height }: typeof size, [y, u, v]: number[]) =>
    new Uint8Array((width * height * 3) / 2)
      .fill(y ?? 0, 0, width * height)
      .fill(u ?? 0, width * height, width * height * 1.25)
      .fill(v ?? 0, width * height * 1.25);
  const compose = (colour: string, key: ColourKey | null) => {
    const screen = flat(size, [200, 128, 128]);
    const box = placeCamera(size, camera, { ...FIRST_PLACE, shape: 'circle', key });
    layOver(screen, size, flat(camera, yuvOfHex(colour)), camera, overlayOf(camera, box, false));
    return { screen, box };
  };
  const before = flat(size, [200, 128, 128]);
  expect(compose('#3fae62', KEY).screen).toEqual(before);
  const [luma] = yuvOfHex('#74482f');
  const { screen, box } = compose('#74482f', KEY);
  let changed = 0;
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const away = Math.hypot(x + 0.5 - box.at.x - box.at.width / 2, y + 0.5 - box.at.y - box.at.height / 2);
      const value = screen[y * size.width + x] ?? 0;
      if (away < box.radius - 2) expect(Math.abs(value - luma)).toBeLessThanOrEqual(1);
      if (away > box.radius + 1) expect(value).toBe(200);
      if (value !== 200) changed++;
    }
  expect(changed).toBeGreaterThan(0.95 * Math.PI * (box.radius - 1) ** 2);
  const [, u, v] = yuvOfHex('#3fae62');
  expect(keyTables(KEY).opacity[(u << 8) | v]).toBe(0);
});

import { expect, it } from 'vitest';
import { arrivalVerdict, arrivingPx, textHeightPx } from './text-height';

/** Lines of upright strokes two pixels wide, as text have them, on flat ground. */
function page(textPx: number, leading: number) {
  const [width, height] = [640, 360];
  const data = new Uint8Array(width * height).fill(240);
  for (let top = 20; top + textPx < height - 20; top += leading)
    for (let x = 40; x < 600; x += 7)
      for (let y = top; y < top + textPx; y++) data.fill(20, y * width + x, y * width + x + 2);
  return { width, height, data };
}

it.each([9, 12, 18])('finds letters of %i pixels', (textPx) => {
  expect(textHeightPx(page(textPx, textPx * 2))).toBe(textPx);
});

it('finds none where there is no text', () => {
  expect(textHeightPx({ width: 640, height: 360, data: new Uint8Array(640 * 360).fill(128) })).toBeNull();
});

it('says how tall letters arrive, and whether they can be read there', () => {
  const picture = { width: 1920, height: 1080 };
  expect(arrivingPx(18, picture, { width: 640, height: 360 })).toBe(6);
  expect(arrivingPx(12, picture, { width: 844, height: 390 })).toBeCloseTo(4.33, 2);
  expect([6, 8, 9].map(arrivalVerdict)).toEqual(['unreadable', 'hard', 'good']);
});

import { expect, it } from 'vitest';
import { fitted } from './fit';
import { pictureShare } from './picture-share';

const DISPLAY = { width: 1920, height: 1080 };
const share = (x: number, y: number, wanted: Partial<Parameters<typeof fitted>[0]> = {}) =>
  pictureShare({ x, y }, fitted({ aim: 'whole', box: null, fit: 'within', ...wanted }, DISPLAY));

it('keeps a place in a picture that is only scaled, and counts from the corner of a region', () => {
  expect(share(480, 810, { box: { width: 1280, height: 720 } })).toEqual({ x: 0.25, y: 0.75 });
  const aim = { x: 400, y: 200, width: 800, height: 400 };
  expect(share(800, 300, { aim })).toEqual({ x: 0.5, y: 0.25 });
  expect(share(300, 300, { aim })).toBeNull();
});

it('leaves out the bars beside a picture', () => {
  // 1920×1080 in a square: bars above and below.
  const at = share(960, 0, { box: { width: 1080, height: 1080 }, fit: 'letterbox' });
  expect(at?.x).toBeCloseTo(0.5, 3);
  expect(at?.y).toBeCloseTo((1080 - 607.5) / 2 / 1080, 2);
});

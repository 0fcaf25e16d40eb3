import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bitrateText, bytesText, clockText } from '../base/figures';
import { fileName, nameChanges, numberedName } from '../base/names';
import { frameTimeUs } from '../base/rational';
import { fitWithin } from '../base/sizes';
import type { CameraPlace } from '../rig/rig';
import { moveCamera, resizeCamera } from './camera-place';
import { contain, placeCamera } from './layout';

const side = fc.integer({ min: 32, max: 4096 });
const size = fc.record({ width: side, height: side });

describe('sizes and layout', () => {
  it('fits a source into a box: even, never larger than either, the same shape', () => {
    expect(fitWithin({ width: 1920, height: 1080 }, { width: 1280, height: 720 })).toEqual({
      width: 1280,
      height: 720,
      scale: 2 / 3,
    });
    expect(fitWithin({ width: 1367, height: 769 }, { width: 1920, height: 1080 })).toEqual({
      width: 1366,
      height: 768,
      scale: 1,
    });
    fc.assert(
      fc.property(size, size, (source, box) => {
        const picture = fitWithin(source, box);
        expect([picture.width % 2, picture.height % 2]).toEqual([0, 0]);
        expect(picture.width).toBeLessThanOrEqual(Math.min(source.width, box.width + 1));
        expect(picture.height).toBeLessThanOrEqual(Math.min(source.height, box.height + 1));
        expect(Math.abs(picture.width - source.width * picture.scale)).toBeLessThanOrEqual(2);
        expect(Math.abs(picture.height - source.height * picture.scale)).toBeLessThanOrEqual(2);
      }),
    );
  });

  it('keeps the camera inside the picture in every corner, on even pixels', () => {
    const corner = fc.constantFrom('top-left', 'top-right', 'bottom-left', 'bottom-right' as const);
    const shape = fc.constantFrom('rounded', 'circle', 'rectangle', 'tall' as const);
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    const free = fc.option(fc.record({ x: share, y: share }));
    const place = fc.record({
      corner,
      shape,
      width: fc.double({ min: 0.05, max: 0.4, noNaN: true }),
      mirror: fc.boolean(),
      free,
    });
    const wide = fc.record({
      width: fc.integer({ min: 640, max: 3840 }),
      height: fc.integer({ min: 480, max: 2160 }),
    });
    fc.assert(
      fc.property(wide, place, (picture, at) => {
        const even = { width: 2 * Math.floor(picture.width / 2), height: 2 * Math.floor(picture.height / 2) };
        const placed = placeCamera(
          even,
          { width: 640, height: 360 },
          at as Parameters<typeof placeCamera>[2],
        );
        for (const v of [placed.at.x, placed.at.y, placed.at.width, placed.at.height])
          expect(Math.abs(v) % 2).toBe(0);
        expect(Math.min(placed.at.x, placed.at.y)).toBeGreaterThanOrEqual(0);
        expect(placed.at.y + placed.at.height).toBeLessThanOrEqual(even.height);
        expect(placed.at.x + placed.at.width).toBeLessThanOrEqual(even.width);
        if (at.shape === 'circle') expect(placed.crop.width).toBe(placed.crop.height);
        else if (at.shape !== 'tall') expect(placed.crop).toEqual({ x: 0, y: 0, width: 640, height: 360 });
        const [across, down] = [placed.at.width / placed.crop.width, placed.at.height / placed.crop.height];
        // Even sides move an edge by a pixel at most.
        const { at: shown, crop } = placed;
        const narrow = Math.min(crop.width, crop.height, shown.width, shown.height);
        expect(Math.abs(across / down - 1) * narrow).toBeLessThanOrEqual(2.5);
        // Drawn anywhere it stays inside, and one that is let go near its corner stands in it.
        const moved = moveCamera(even, { width: 640, height: 360 }, at as CameraPlace, 7, -9, true);
        const there = placeCamera(even, { width: 640, height: 360 }, moved).at;
        expect(Math.min(there.x, there.y)).toBeGreaterThanOrEqual(0);
        expect(there.x + there.width).toBeLessThanOrEqual(even.width);
        if (!at.free && at.shape !== 'tall') expect(moved.free).toBeNull();
        // By keys it leaves its corner at the first step, and comes back to it; a size is whole pixels.
        const camera = { width: 640, height: 360 };
        const inside = placed.at.x >= 2 && placed.at.x + placed.at.width + 2 <= even.width;
        if (!at.free && at.shape !== 'tall' && inside) {
          const left = moveCamera(even, camera, at as CameraPlace, -2, 0, false);
          expect(placeCamera(even, camera, left).at.x).toBe(placed.at.x - 2);
          const back = moveCamera(even, camera, left, 2, 0, false);
          expect(back.free).toBeNull();
          expect(placeCamera(even, camera, back).at).toEqual(placed.at);
        }
        const wider = resizeCamera(even, at as CameraPlace, 4);
        expect(resizeCamera(even, wider, 0)).toEqual(wider);
        if (wider.width < 0.5)
          expect(Math.abs(wider.width * even.width - Math.round(wider.width * even.width))).toBeLessThan(
            0.02,
          );
      }),
    );
    expect(contain({ width: 4, height: 3 }, { width: 16, height: 9 })).toEqual({
      x: 2,
      y: 0,
      width: 12,
      height: 9,
    });
  });
});

describe('names and figures', () => {
  it('makes a safe file name of any text', () => {
    expect(fileName('Check in: a "returned" packet?', 'mp4')).toBe('Check in a returned packet.mp4');
    expect(fileName('CON', 'mkv')).toBe('CON file.mkv');
    expect(fileName('../..', 'mkv')).toBe('untitled.mkv');
    expect([1, 2, 13].map((n) => numberedName('Seeds, v1.2.mp4', n))).toEqual([
      'Seeds, v1.2.mp4',
      'Seeds, v1.2 (2).mp4',
      'Seeds, v1.2 (13).mp4',
    ]);
    expect(nameChanges('{x}: a\u200bb?')).toEqual(['the signs : ?', 'an invisible character']);
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 300 }), (text) => {
        const name = fileName(text, 'mp4');
        expect(new TextEncoder().encode(name).length).toBeLessThanOrEqual(124);
        expect(name).toMatch(/^[^<>:"/\\|?*]+\.mp4$/);
        expect(name).not.toMatch(/^[. ]|[. ]\.mp4$/);
      }),
    );
  });

  it('writes figures in one way', () => {
    expect([bytesText(999), bytesText(19_200_000), bytesText(999_900)]).toEqual(['999 B', '19 MB', '1.0 MB']);
    expect([clockText(204_000_000), clockText(3_729_999_999)]).toEqual(['3:24', '1:02:09']);
    expect([bitrateText(2_100_000), bitrateText(64_000), bitrateText(1.493e9)]).toEqual([
      '2.10 Mb/s',
      '64 kb/s',
      '1.49 Gb/s',
    ]);
    expect(frameTimeUs(30_000, { num: 30_000, den: 1001 })).toBe(1_001_000_000);
  });
});

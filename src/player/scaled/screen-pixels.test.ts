import fc from 'fast-check';
import type { VideoSample } from 'mediabunny';
import { describe, expect, it } from 'vitest';
import type { Rect, Size } from '@/core/base/sizes';
import type { Scaler } from './scaled-picture';
import { screenPixels } from './screen-pixels';

const SIZE = { width: 1920, height: 1080 };

/** A sample that counts whether each of its clones was closed. */
function sampleOf(changed: object = {}) {
  const open = { clones: 0 };
  const parts: Rect[] = [];
  const sample = {
    format: 'I420',
    colorSpace: { matrix: 'bt709', fullRange: false },
    rotation: 0,
    flip: false,
    visibleRect: { left: 0, top: 0, ...SIZE },
    copyTo: async (_: Uint8Array, { rect }: { rect: Rect }) => void parts.push(rect),
    clone() {
      open.clones++;
      return { ...this, close: () => open.clones-- };
    },
    ...changed,
  };
  return { sample: sample as unknown as VideoSample, open, parts };
}

type Asked = { from: Rect; to: Size };

/** A scaler that keeps what it was asked for, and copies the upper left corner. */
function keeping() {
  const asked: Asked[] = [];
  const scaler: Scaler = async (picture, from, to) => {
    asked.push({ from, to });
    await picture.copy({ x: 0, y: 0, width: 16, height: 16 }, new Uint8Array(384));
    return new Uint8ClampedArray(4 * to.width * to.height);
  };
  return { asked, scaler };
}

const ALL = { x: 0, y: 0, ...SIZE };

describe('the pixels of a screen on a canvas', () => {
  const place = fc.double({ min: 0, max: 300, noNaN: true });
  const side = fc.double({ min: 1, max: 300, noNaN: true });
  it('are all that the place covers, and show what lies under them', async () => {
    await fc.assert(
      fc.asyncProperty(place, place, side, side, async (x, y, width, height) => {
        const { asked, scaler } = keeping();
        const { sample, open } = sampleOf();
        const made = await screenPixels(scaler, sample, SIZE, ALL, { x, y, width, height });
        if (!made) throw new Error('It was left to the browser.');
        for (const [first, count, from, length] of [
          [made.x, made.width, x, width],
          [made.y, made.height, y, height],
        ] as const) {
          expect(first).toBeLessThanOrEqual(from + 1e-3);
          expect(first).toBeGreaterThan(from - 1);
          expect(first + count).toBeGreaterThanOrEqual(from + length - 1e-3);
          expect(first + count).toBeLessThan(from + length + 1);
        }
        const [{ from }] = asked as [Asked];
        // A place of the canvas shows the same place of the picture, whether it is counted from the place's edges or the pixels'.
        expect(from.x + ((x - made.x) / made.width) * from.width).toBeCloseTo(0, 6);
        expect(from.y + ((y + height - made.y) / made.height) * from.height).toBeCloseTo(SIZE.height, 6);
        expect(open.clones).toBe(0);
      }),
    );
  });

  it('are the nearest whole ones where a division left a trace', async () => {
    const { scaler } = keeping();
    const at = { x: 12.0000000004, y: 7.9999999997, width: 639.9999999999, height: 360.0000000002 };
    const made = await screenPixels(scaler, sampleOf().sample, SIZE, ALL, at);
    expect(made).toMatchObject({ x: 12, y: 8, width: 640, height: 360 });
  });

  it('are read within what of a frame is visible', async () => {
    const { scaler } = keeping();
    const { sample, parts } = sampleOf({ visibleRect: { left: 8, top: 4, ...SIZE } });
    await screenPixels(scaler, sample, SIZE, ALL, ALL);
    expect(parts).toEqual([{ x: 8, y: 4, width: 16, height: 16 }]);
  });

  it('are left to the browser where the picture is of another kind', async () => {
    const { scaler, asked } = keeping();
    const others: object[] = [
      { format: null },
      { format: 'NV12' },
      { format: 'I444' },
      { colorSpace: { matrix: 'smpte170m', fullRange: false } },
      { colorSpace: { matrix: 'bt709', fullRange: true } },
      { colorSpace: { matrix: null, fullRange: null } },
      { rotation: 90 },
      { flip: true },
      { visibleRect: { left: 0, top: 0, width: 1280, height: 720 } },
      { visibleRect: { left: 1, top: 0, ...SIZE } },
    ];
    for (const other of others)
      expect(await screenPixels(scaler, sampleOf(other).sample, SIZE, ALL, ALL)).toBeNull();
    expect(await screenPixels(null, sampleOf().sample, SIZE, ALL, ALL)).toBeNull();
    expect(await screenPixels(scaler, sampleOf().sample, SIZE, ALL, { ...ALL, width: 0 })).toBeNull();
    expect(asked).toEqual([]);
  });

  it('let go of the frame when it cannot be read', async () => {
    const { sample, open } = sampleOf({ copyTo: () => Promise.reject(new Error('It is closed.')) });
    await expect(screenPixels(keeping().scaler, sample, SIZE, ALL, ALL)).rejects.toThrow('It is closed.');
    expect(open.clones).toBe(0);
  });
});

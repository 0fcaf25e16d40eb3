import type { VideoSample } from 'mediabunny';
import type { Rect, Size } from '@/core/base/sizes';
import type { Scaler } from './scaled-picture';

/** Less of a pixel than this is what a division left over. */
const LEAST = 1e-3;

/** Pixels for a place of a canvas. */
export type Pixels = Size & { rgba: Uint8ClampedArray<ArrayBuffer>; x: number; y: number };

/** Whether a software decoder left its planes in memory. A graphics card draws its own pictures faster. */
const isPlanar = ({ format, colorSpace, rotation, flip, visibleRect }: VideoSample, size: Size): boolean =>
  format === 'I420' &&
  colorSpace.matrix === 'bt709' &&
  colorSpace.fullRange === false &&
  rotation === 0 &&
  !flip &&
  visibleRect.width === size.width &&
  visibleRect.height === size.height &&
  [visibleRect.left, visibleRect.top, size.width, size.height].every((side) => side % 2 === 0);

/**
 * A part of a picture as whole pixels of a canvas.
 * @param scaler null where there is none
 * @param size of the picture as it is shown
 * @param from in pixels of the picture and parts of them
 * @param at on the canvas; every pixel is made of which it covers anything
 * @returns memory that holds until the next is made; null where the browser is to draw it
 */
export async function screenPixels(
  scaler: Scaler | null,
  sample: VideoSample,
  size: Size,
  from: Rect,
  at: Rect,
): Promise<Pixels | null> {
  if (!scaler || !isPlanar(sample, size)) return null;
  const [left, top] = [Math.floor(at.x + LEAST), Math.floor(at.y + LEAST)];
  const to = {
    width: Math.ceil(at.x + at.width - LEAST) - left,
    height: Math.ceil(at.y + at.height - LEAST) - top,
  };
  if (to.width < 1 || to.height < 1) return null;
  const [x, y] = [from.width / at.width, from.height / at.height];
  const own = sample.clone();
  try {
    const { left: visibleX, top: visibleY } = own.visibleRect;
    const rgba = await scaler(
      {
        ...size,
        copy: (part, target) =>
          own.copyTo(target, { rect: { ...part, x: part.x + visibleX, y: part.y + visibleY } }),
      },
      {
        ...{ x: from.x + (left - at.x) * x, y: from.y + (top - at.y) * y },
        ...{ width: to.width * x, height: to.height * y },
      },
      to,
    );
    return { ...to, rgba, x: left, y: top };
  } finally {
    own.close();
  }
}

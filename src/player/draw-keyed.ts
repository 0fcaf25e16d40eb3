import type { VideoSample } from 'mediabunny';
import type { Rect } from '@/core/base/sizes';
import { type ColourKey, keyPixels } from '@/core/image/colour-key';

/** Where the camera is drawn before it is keyed: reused for each frame of the same size. */
let scratch: OffscreenCanvasRenderingContext2D | null = null;

/** A part of the camera's picture in pixels of the screen, its background transparent. */
export function drawnKeyed(
  face: VideoSample,
  crop: Rect,
  width: number,
  height: number,
  key: ColourKey,
): OffscreenCanvas {
  if (scratch?.canvas.width !== width || scratch.canvas.height !== height)
    scratch = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!scratch) throw new Error('This browser gives a worker no canvas to draw on.');
  scratch.imageSmoothingQuality = 'high';
  face.draw(scratch, crop.x, crop.y, crop.width, crop.height, 0, 0, width, height);
  const picture = scratch.getImageData(0, 0, width, height);
  keyPixels(picture.data, width, height, key);
  scratch.putImageData(picture, 0, 0);
  return scratch.canvas;
}

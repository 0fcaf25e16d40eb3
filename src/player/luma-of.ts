import type { VideoSample } from 'mediabunny';
import type { Rect } from '@/core/base/sizes';
import type { Luma } from '@/core/image/clarity';

/** Brightness of a part of a picture, in its own pixels. @param at whole pixels of the picture */
export function lumaOf(sample: VideoSample, { x, y, width, height }: Rect): Luma {
  const pen = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!pen) throw new Error('This browser gives a worker no canvas to draw on.');
  sample.draw(pen, x, y, width, height, 0, 0, width, height);
  const { data: rgba } = pen.getImageData(0, 0, width, height);
  const data = new Uint8Array(width * height);
  // ITU-R BT.709, 3.2: luma of R′G′B′.
  for (let i = 0; i < data.length; i++)
    data[i] =
      0.2126 * (rgba[4 * i] as number) +
      0.7152 * (rgba[4 * i + 1] as number) +
      0.0722 * (rgba[4 * i + 2] as number);
  return { width, height, data };
}

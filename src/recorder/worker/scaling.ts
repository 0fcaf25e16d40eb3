import type { Rect, Size } from '@/core/base/sizes';
import { yuvOfHex } from '@/core/image/bt709';
import { openResampler, type Plane, type ScaleFilter } from '@/core/image/resample';
import type { Fitted } from '@/core/layout/fit';
import { GROUND } from '@/core/layout/layout';

/** Where the planes of an I420 picture lie that has no padding. */
export const layoutI420 = ({ width, height }: Size): PlaneLayout[] => [
  { offset: 0, stride: width },
  { offset: width * height, stride: width / 2 },
  { offset: width * height * 1.25, stride: width / 2 },
];
const planesOf = (data: Uint8Array, size: Size): Plane[] =>
  layoutI420(size).map((layout) => ({ data, ...layout }));
const halved = ({ width, height }: Size): Size => ({ width: width / 2, height: height / 2 });

/**
 * Scales the capture area with a filter of our own, into reused memory, with bars.
 * @returns the function that makes the encoded frame; `rect` is the capture area in the frame's memory
 */
export function openScaling({ crop, size, at }: Fitted, filter: ScaleFilter) {
  const luma = openResampler(crop, at, filter);
  const chroma = openResampler(halved(crop), halved(at), filter);
  const area = crop.width * crop.height;
  const kept = new Uint8Array(area * 1.5);
  const made = new Uint8Array((size.width * size.height * 3) / 2);
  const [y, u, v] = yuvOfHex(GROUND);
  const whole = size.width * size.height;
  made
    .fill(y, 0, whole)
    .fill(u, whole, whole * 1.25)
    .fill(v, whole * 1.25);
  const from = planesOf(kept, crop);
  const to = planesOf(made, size).map((plane, i) => {
    const half = i === 0 ? 1 : 2;
    return { ...plane, offset: plane.offset + (at.y / half) * plane.stride + at.x / half };
  });

  const read = async (picture: VideoFrame, rect: Rect) => {
    if (picture.format !== 'NV12') {
      await picture.copyTo(kept, { rect, layout: layoutI420(crop) });
      return;
    }
    // Graphics processors give both colour differences in one plane, in turns.
    const memory = new Uint8Array(area * 1.5);
    await picture.copyTo(memory, {
      rect,
      layout: [
        { offset: 0, stride: crop.width },
        { offset: area, stride: crop.width },
      ],
    });
    kept.set(memory.subarray(0, area));
    for (let i = 0; i < area / 4; i++) {
      kept[area + i] = memory[area + 2 * i] as number;
      kept[area * 1.25 + i] = memory[area + 2 * i + 1] as number;
    }
  };

  return async (picture: VideoFrame, timestamp: number, rect: Rect): Promise<VideoFrame> => {
    await read(picture, rect);
    from.forEach((plane, i) => {
      const target = to[i];
      if (target) (i === 0 ? luma : chroma)(plane, target);
    });
    return new VideoFrame(made, {
      format: 'I420',
      codedWidth: size.width,
      codedHeight: size.height,
      timestamp,
      colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
    });
  };
}

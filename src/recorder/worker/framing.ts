import { nearestEven, type Rect, type Size } from '@/core/base/sizes';
import { yuvOfHex } from '@/core/image/bt709';
import { type Fitted, hasBars, isOneToOne } from '@/core/layout/fit';
import { GROUND } from '@/core/layout/layout';
import type { LiveFilter } from '@/core/rig/rig';
import { openScaling } from './scaling';

/** Where a part of the visible rectangle is in a frame's memory. */
const within = (picture: VideoFrame, kept: Rect): Rect => ({
  ...kept,
  x: kept.x + (picture.visibleRect?.x ?? 0),
  y: kept.y + (picture.visibleRect?.y ?? 0),
});

/** Makes the frame that is encoded from a captured one; the encoder scales it to the size it is configured for. */
export type Framing = {
  /** At once, by reference: a region is a matter of which pixels are read. Null where bars must be drawn. */
  readonly cut: ((picture: VideoFrame, timestamp: number, kept?: Rect) => VideoFrame) | null;
  /** With bars, which are drawn into memory that is used again for each picture. */
  readonly compose: (picture: VideoFrame, timestamp: number, kept?: Rect) => Promise<VideoFrame>;
};

/** The picture with its bars before it is scaled: its size, and where the kept part lies in it. */
function beforeScaling({ crop, size, at }: Fitted): { size: Size; at: Rect } {
  const scale = { x: crop.width / at.width, y: crop.height / at.height };
  return {
    size: {
      width: Math.max(crop.width, nearestEven(size.width * scale.x)),
      height: Math.max(crop.height, nearestEven(size.height * scale.y)),
    },
    at: { ...crop, x: nearestEven(at.x * scale.x), y: nearestEven(at.y * scale.y) },
  };
}

/** @param filter what scales the picture: the encoder as the browser does it, or a filter of our own */
export function openFraming(fitted: Fitted, filter: LiveFilter): Framing {
  const { crop } = fitted;
  if (filter !== 'browser' && !isOneToOne(fitted)) {
    const scale = openScaling(fitted, filter);
    return {
      cut: null,
      compose: (picture, timestamp, kept = crop) => scale(picture, timestamp, within(picture, kept)),
    };
  }
  const cut = (picture: VideoFrame, timestamp: number, kept: Rect = crop) =>
    new VideoFrame(picture, {
      timestamp,
      visibleRect: within(picture, kept),
      displayWidth: kept.width,
      displayHeight: kept.height,
    });
  if (!hasBars(fitted))
    return { cut, compose: async (picture, timestamp, kept) => cut(picture, timestamp, kept) };
  const { size, at } = beforeScaling(fitted);
  const area = size.width * size.height;
  let drawn: { format: VideoPixelFormat; memory: Uint8Array } | null = null;
  /** The three planes of I420, or the two of NV12, where the kept part lies in them. */
  const layoutOf = (format: VideoPixelFormat): PlaneLayout[] => {
    const luma = { offset: at.y * size.width + at.x, stride: size.width };
    if (format === 'NV12')
      return [luma, { offset: area + (at.y / 2) * size.width + at.x, stride: size.width }];
    const half = { offset: (at.y / 2) * (size.width / 2) + at.x / 2, stride: size.width / 2 };
    return [luma, { ...half, offset: area + half.offset }, { ...half, offset: area * 1.25 + half.offset }];
  };
  const ground = (format: VideoPixelFormat): Uint8Array => {
    const [y, u, v] = yuvOfHex(GROUND);
    const memory = new Uint8Array(area * 1.5);
    memory.fill(y, 0, area);
    if (format === 'NV12') for (let i = area; i < memory.length; i += 2) [memory[i], memory[i + 1]] = [u, v];
    else memory.fill(u, area, area * 1.25).fill(v, area * 1.25);
    return memory;
  };
  return {
    cut: null,
    compose: async (picture, timestamp, kept = crop) => {
      const format = picture.format === 'NV12' ? 'NV12' : 'I420';
      if (drawn?.format !== format) drawn = { format, memory: ground(format) };
      await picture.copyTo(drawn.memory, { rect: within(picture, kept), layout: layoutOf(format) });
      return new VideoFrame(drawn.memory, {
        format,
        codedWidth: size.width,
        codedHeight: size.height,
        timestamp,
        colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
      });
    },
  };
}

import { type FrameRate, framesPerSecond } from '../base/rational';
import { even, fitWithin, type Size, sameSize } from '../base/sizes';
import type { Destination } from '../destination/destination';
import type { ScaleFilter } from '../image/resample';

/** How the composed picture is brought to the size of a destination: scaled (never up), then given bars. */
export type OutputShape = { scaled: Size; canvas: Size; scaling: ScaleFilter };

/** @param size of the composed picture */
export function outputShape(size: Size, { video: { box, shape, scaling } }: Destination): OutputShape {
  const within = box ?? size;
  const plain = fitWithin(size, within);
  if (!shape) return { scaled: plain, canvas: plain, scaling };
  const aspect = shape.width / shape.height;
  const around = (inner: Size): Size =>
    inner.width / inner.height >= aspect
      ? { width: inner.width, height: even(inner.width / aspect) }
      : { width: even(inner.height * aspect), height: inner.height };
  const canvas = around(plain);
  const scale = Math.min(1, within.width / canvas.width, within.height / canvas.height);
  if (!box || scale === 1) return { scaled: plain, canvas, scaling };
  const scaled = { width: even(plain.width * scale), height: even(plain.height * scale) };
  return { scaled, canvas: around(scaled), scaling };
}

/** The rate of the finished video: as recorded, or the highest that the place takes. */
export function outputRate(recorded: FrameRate, { video: { frameRate } }: Destination): FrameRate {
  const { max } = frameRate;
  return max && framesPerSecond(max) < framesPerSecond(recorded) ? max : recorded;
}

export const isScaled = (size: Size, scaled: Size): boolean => !sameSize(size, scaled);

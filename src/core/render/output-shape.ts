import type { Destination } from '../destination';
import { type FrameRate, framesPerSecond } from '../rational';
import type { ScaleFilter } from '../resample';
import { even, fitWithin, type Size } from '../sizes';

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

export const isScaled = (size: Size, scaled: Size): boolean =>
  scaled.width !== size.width || scaled.height !== size.height;

/** Filters from the composed picture to the encoder's. */
export function outputFilters(size: Size, { scaled, canvas, scaling }: OutputShape): string {
  const filters: string[] = [];
  if (isScaled(size, scaled)) filters.push(`scale=${scaled.width}:${scaled.height}:flags=${scaling}`);
  if (canvas.width !== scaled.width || canvas.height !== scaled.height)
    filters.push(`pad=${canvas.width}:${canvas.height}:-1:-1`);
  return [...filters, 'setsar=1'].join(',');
}

/** Filters that bring a finished picture back to the composed size, to compare the two. */
export function comparingFilters(size: Size, { scaled, canvas }: OutputShape): string {
  const filters: string[] = [];
  if (canvas.width !== scaled.width || canvas.height !== scaled.height)
    filters.push(`crop=${scaled.width}:${scaled.height}`);
  if (isScaled(size, scaled)) filters.push(`scale=${size.width}:${size.height}:flags=bicubic`);
  return [...filters, 'format=yuv420p'].join(',');
}

import { type Size, sameSize } from '../base/sizes';
import { isScaled, type OutputShape } from '../deliver/output-shape';

/** Filters from the composed picture to the encoder's. */
export function outputFilters(size: Size, { scaled, canvas, scaling }: OutputShape): string {
  const filters: string[] = [];
  if (isScaled(size, scaled)) filters.push(`scale=${scaled.width}:${scaled.height}:flags=${scaling}`);
  if (!sameSize(canvas, scaled)) filters.push(`pad=${canvas.width}:${canvas.height}:-1:-1`);
  return [...filters, 'setsar=1'].join(',');
}

/** Filters that bring a finished picture back to the composed size, to compare the two. */
export function comparingFilters(size: Size, { scaled, canvas }: OutputShape): string {
  const filters: string[] = [];
  if (!sameSize(canvas, scaled)) filters.push(`crop=${scaled.width}:${scaled.height}`);
  if (isScaled(size, scaled)) filters.push(`scale=${size.width}:${size.height}:flags=bicubic`);
  return [...filters, 'format=yuv420p'].join(',');
}

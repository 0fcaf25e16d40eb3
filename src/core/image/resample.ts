import { z } from 'zod';

/** How pixels of another grid are made, from quick and soft to slow and sharp. */
export const ScaleFilter = z.enum(['bilinear', 'bicubic', 'lanczos']);
export type ScaleFilter = z.infer<typeof ScaleFilter>;

/** Half the width of a filter, in pixels of the coarser grid. */
const REACH: Record<ScaleFilter, number> = { bilinear: 1, bicubic: 2, lanczos: 3 };

const sinc = (x: number) => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));

/**
 * A filter's weight at a distance in pixels of the coarser grid. Bicubic: Keys, "Cubic convolution interpolation for digital image
 * processing", IEEE Transactions on Acoustics, Speech and Signal Processing 29(6), 1981, equation 4 (a = −1/2). Lanczos: Duchon, "Lanczos
 * filtering in one and two dimensions", Journal of Applied Meteorology 18(8), 1979, with three lobes.
 */
export function weight(filter: ScaleFilter, distance: number): number {
  const x = Math.abs(distance);
  if (x >= REACH[filter]) return 0;
  if (filter === 'bilinear') return 1 - x;
  if (filter === 'lanczos') return sinc(x) * sinc(x / 3);
  return x < 1 ? 1.5 * x ** 3 - 2.5 * x ** 2 + 1 : -0.5 * x ** 3 + 2.5 * x ** 2 - 4 * x + 2;
}

/** A stretch of a line of samples: it begins and is as long as said, in samples and parts of them, within a line of `of`. */
export type Stretch = { start: number; length: number; of: number };

/** Which samples of a line make each of another: `count` weights from `first` on, the others of its `stride` are 0. */
export type FilterLine = { first: Int32Array; count: Int32Array; weights: Int16Array; stride: number };

const SHIFT = 12;

/**
 * The weights that make a line of samples from a stretch of another. Beyond the line's ends nothing counts.
 * @param to how many samples are made
 * @param shift the weights of each sample add up to 1 << shift
 * @param strideOf the stride for as many weights as a sample has at most
 */
export function filterLine(
  { start, length, of }: Stretch,
  to: number,
  filter: ScaleFilter,
  shift = SHIFT,
  strideOf: (most: number) => number = (most) => most,
): FilterLine {
  const ratio = length / to;
  // Made smaller, a filter must be as wide as what falls into one pixel; otherwise fine lines flicker.
  const spread = Math.max(1, ratio);
  const reach = REACH[filter] * spread;
  const stride = strideOf(Math.ceil(2 * reach));
  const first = new Int32Array(to);
  const count = new Int32Array(to);
  const weights = new Int16Array(to * stride);
  const shares = new Float64Array(stride);
  for (let n = 0; n < to; n++) {
    const middle = Math.min(of - 0.5, Math.max(-0.5, start + (n + 0.5) * ratio - 0.5));
    // At its very ends a filter is nought.
    const from = Math.max(0, Math.floor(middle - reach) + 1);
    const last = Math.min(of - 1, Math.ceil(middle + reach) - 1);
    let sum = 0;
    for (let at = from; at <= last; at++) {
      const share = weight(filter, (at - middle) / spread);
      shares[at - from] = share;
      sum += share;
    }
    let left = 1 << shift;
    let largest = 0;
    for (let i = 0; i <= last - from; i++) {
      const share = shares[i] as number;
      const whole = Math.round((share / sum) * (1 << shift));
      weights[n * stride + i] = whole;
      left -= whole;
      if (share > (shares[largest] as number)) largest = i;
    }
    // What rounding left goes where it is seen least.
    weights[n * stride + largest] = (weights[n * stride + largest] as number) + left;
    first[n] = from;
    count[n] = last - from + 1;
  }
  return { first, count, weights, stride };
}

/** A plane of samples in a buffer. */
export type Plane = { data: Uint8Array; offset: number; stride: number };

/**
 * What scales planes of one size to another, again and again: weights are made once.
 * @returns a function that reads a plane and writes another; neither may be the other's buffer
 */
export function openResampler(
  from: { width: number; height: number },
  to: { width: number; height: number },
  filter: ScaleFilter,
): (source: Plane, target: Plane) => void {
  const whole = (length: number) => ({ start: 0, length, of: length });
  const across = filterLine(whole(from.width), to.width, filter);
  const down = filterLine(whole(from.height), to.height, filter);
  // Rows first: they lie together in memory. Two bits more than a sample keep what overshoots.
  const middle = new Int16Array(to.width * from.height);
  return (source, target) => {
    for (let y = 0; y < from.height; y++) {
      const row = source.offset + y * source.stride;
      for (let x = 0; x < to.width; x++) {
        const at = row + (across.first[x] as number);
        const weights = x * across.stride;
        const count = across.count[x] as number;
        let sum = 0;
        for (let i = 0; i < count; i++)
          sum += (source.data[at + i] as number) * (across.weights[weights + i] as number);
        middle[y * to.width + x] = sum >> (SHIFT - 2);
      }
    }
    for (let y = 0; y < to.height; y++) {
      const first = (down.first[y] as number) * to.width;
      const weights = y * down.stride;
      const count = down.count[y] as number;
      const row = target.offset + y * target.stride;
      for (let x = 0; x < to.width; x++) {
        let sum = 0;
        for (let i = 0; i < count; i++)
          sum += (middle[first + i * to.width + x] as number) * (down.weights[weights + i] as number);
        target.data[row + x] = Math.min(255, Math.max(0, (sum + (1 << (SHIFT + 1))) >> (SHIFT + 2)));
      }
    }
  };
}

// Bytes at equal clarity: what two encoders are compared by.

import {
  colourWindows,
  type Luma,
  textClarity,
  textWindows,
  type VideoClarity,
  videoClarity,
} from '@/core/image/clarity';
import type { Picture } from './contents';

/** Pictures that others are compared with, and where in them text is. */
export type Reference = {
  pictures: readonly Picture[];
  text: Int32Array[];
  colour: [Int32Array, Int32Array][];
};

const luma = ({ width, height, data }: Picture): Luma => ({
  width,
  height,
  data: data.subarray(0, width * height),
});
function colour({ width, height, data }: Picture, plane: 0 | 1): Luma {
  const area = width * height;
  const at = area + (plane * area) / 4;
  return { width: width / 2, height: height / 2, data: data.subarray(at, at + area / 4) };
}

export const referenceOf = (pictures: readonly Picture[]): Reference => ({
  pictures,
  text: pictures.map((picture) => textWindows(luma(picture))),
  colour: pictures.map((picture) => [colourWindows(colour(picture, 0)), colourWindows(colour(picture, 1))]),
});

export type Clarity = { text: VideoClarity; colour: VideoClarity };
const NOTHING: VideoClarity = { mean: 1, worst: 1, pictures: 0 };

/** @param counted which of the pictures are looked at */
export function clarityOf(
  reference: Reference,
  shown: readonly Picture[],
  counted: readonly boolean[],
): Clarity {
  const some = reference.pictures.flatMap((picture, n) => {
    const own = shown[n];
    return counted[n] && own ? [{ picture, own, n }] : [];
  });
  return {
    text:
      videoClarity(
        some.map(({ picture, own, n }) => textClarity(luma(picture), luma(own), reference.text[n])),
      ) ?? NOTHING,
    colour:
      videoClarity(
        some.flatMap(({ picture, own, n }) =>
          ([0, 1] as const).map((plane) =>
            textClarity(colour(picture, plane), colour(own, plane), reference.colour[n]?.[plane]),
          ),
        ),
      ) ?? NOTHING,
  };
}

/** Pictures of a take that show what was drawn: one that the machine skipped compares two different instants. */
export const comparable = (reference: Reference, taken: readonly Picture[]): boolean[] =>
  reference.pictures.map((picture, n) => {
    const own = taken[n];
    return own !== undefined && textClarity(luma(picture), luma(own), reference.text[n]).mean > 0.9;
  });

/** What an encoder made at one quality. */
export type Point = { bytes: number; mean: number; worst: number };

/**
 * Bytes at which a film is as clear as asked, mean and worst: ln(bytes) is linear in ln(1 − clarity) between two measured points, and
 * beyond the finest as between the nearest. Beyond the coarsest nothing is promised that no encoder made: its bytes stand.
 */
export const bytesAt = (points: readonly Point[], asked: { mean: number; worst: number }): number =>
  Math.max(along(points, 'mean', asked.mean), along(points, 'worst', asked.worst));

function along(points: readonly Point[], by: 'mean' | 'worst', asked: number): number {
  const x = (clarity: number) => Math.log(Math.max(1e-6, 1 - clarity));
  const sorted = [...points].sort((a, b) => x(a[by]) - x(b[by]));
  const wanted = x(asked);
  const coarsest = sorted.at(-1);
  if (coarsest && wanted >= x(coarsest[by])) return coarsest.bytes;
  const found = sorted.findIndex((point) => x(point[by]) >= wanted);
  const at = Math.max(1, found < 0 ? sorted.length - 1 : Math.min(sorted.length - 1, found));
  const [a, b] = [sorted[at - 1], sorted[at]];
  if (!a || !b) return Number.NaN;
  const slope = (Math.log(b.bytes) - Math.log(a.bytes)) / (x(b[by]) - x(a[by]) || 1e-9);
  return Math.exp(Math.log(a.bytes) + slope * (wanted - x(a[by])));
}

/** Ratios of different contents are averaged as ratios are. */
export const geometricMean = (values: readonly number[]): number =>
  Math.exp(values.reduce((sum, value) => sum + Math.log(value), 0) / values.length);

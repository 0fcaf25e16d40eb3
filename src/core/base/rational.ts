import { z } from 'zod';

/** An exact frame rate, as container formats keep it: 30000/1001 is never 29.97. */
export const FrameRate = z.object({
  num: z.int().min(1).max(240_000),
  den: z.int().min(1).max(1001),
});
export type FrameRate = z.infer<typeof FrameRate>;

/** Frames per second as a decimal, for arithmetic that ends in a figure to show; never stored. */
export const framesPerSecond = (rate: FrameRate): number => rate.num / rate.den;

/** The same rate in its lowest terms. */
export function reduced({ num, den }: FrameRate): FrameRate {
  const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));
  const by = common(num, den);
  return { num: num / by, den: den / by };
}

/** Time of frame `n` on a grid that starts at 0, in whole microseconds; rounding never accumulates. */
export const frameTimeUs = (n: number, rate: FrameRate): number =>
  Math.round((n * 1_000_000 * rate.den) / rate.num);

/** Frames per second as people write them: "30", "29.97", "12.5". */
export const fpsText = (fps: number): string => fps.toFixed(2).replace(/\.?0+$/, '');
export const rateText = (rate: FrameRate): string => fpsText(framesPerSecond(rate));

/**
 * How far a track's pictures lie behind an even grid of its rate, on the whole: the circular mean of their phases. A steady
 * source keeps its phase, so moving everything by this much puts its pictures on the grid without moving them against the sound.
 * @returns µs, more than minus and at most plus half an interval; 0 for no pictures
 */
export function gridPhaseUs(timesUs: readonly number[], rate: FrameRate): number {
  const intervalUs = (1_000_000 * rate.den) / rate.num;
  let [x, y] = [0, 0];
  for (const time of timesUs) {
    const angle = (2 * Math.PI * time) / intervalUs;
    x += Math.cos(angle);
    y += Math.sin(angle);
  }
  return timesUs.length === 0 ? 0 : Math.round((Math.atan2(y, x) * intervalUs) / (2 * Math.PI));
}

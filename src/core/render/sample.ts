import { type Cut, cutLengthUs, placedPieces } from '../cut/cut';
import type { RenderTake } from './take-sources';

/** A stretch of a cut that is encoded to learn from: a cut of its own. */
export type Stretch = {
  cut: Cut;
  /** Bytes that the live recorder took for its changes, keyframes left out. */
  liveBytes: number;
};

/** What came of a stretch. */
export type Sampled = { stretch: Stretch; keyBytes: number; otherBytes: number };

const WINDOW_US = 1_000_000;
/** Places in the order of how much changes: the middle, a busy one and the busiest. What costs most is known best. */
const PLACES = [0.5, 0.9, 1] as const;

/** Bytes of the live recorder's changes in a stretch of a take: what is no keyframe, of every track that is seen. */
function changes(
  { screens, cameras }: RenderTake,
  fromUs: number,
  toUs: number,
  withCamera: boolean,
): number {
  const seen = withCamera ? [...screens, ...cameras] : screens;
  return seen
    .flatMap(({ packets }) => packets)
    .reduce((sum, { us, bytes, key }) => (us >= fromUs && us < toUs && !key ? sum + bytes : sum), 0);
}

/** Every second of a cut as a cut of its own, with what the live recorder took for it. */
function windowsOf(cut: Cut, takes: readonly RenderTake[]): Stretch[] {
  return placedPieces(cut).flatMap(({ step, piece }) => {
    const take = takes.find(({ id }) => id === piece.take);
    if (!take) return [];
    const withCamera = step.layout.kind !== 'screen';
    const count = Math.max(1, Math.floor((piece.outUs - piece.inUs) / WINDOW_US));
    return Array.from({ length: count }, (_, n): Stretch => {
      const inUs = piece.inUs + n * WINDOW_US;
      const outUs = n === count - 1 && count === 1 ? piece.outUs : inUs + WINDOW_US;
      return {
        cut: { ...cut, steps: [{ ...step, pieces: [{ ...piece, inUs, outUs }] }] },
        liveBytes: changes(take, inUs, outUs, withCamera),
      };
    });
  });
}

/**
 * Three seconds of a cut that say most about the size of all of it.
 * @returns fewer where the cut is shorter
 */
export function stretchesToSample(cut: Cut, takes: readonly RenderTake[]): Stretch[] {
  const windows = windowsOf(cut, takes).sort((a, b) => a.liveBytes - b.liveBytes);
  const at = PLACES.map((share) => Math.round(share * (windows.length - 1)));
  return [...new Set(at)].flatMap((n) => windows[n] ?? []);
}

/**
 * Bytes that the picture of all of a cut will take. Keyframes and changes apart: how many keyframes there will be is known, and how
 * much changes where, the live recorder has told.
 * @param keyframes of the finished video
 */
export function pictureBytesBySample(
  cut: Cut,
  takes: readonly RenderTake[],
  sampled: readonly Sampled[],
  keyframes: number,
): number {
  const sum = (of: (one: Sampled) => number) => sampled.reduce((all, one) => all + of(one), 0);
  const live = windowsOf(cut, takes).reduce((all, { liveBytes }) => all + liveBytes, 0);
  // The last part of a second is in no window.
  const whole = windowsOf(cut, takes).length * WINDOW_US;
  const left = Math.max(1, cutLengthUs(cut) / Math.max(WINDOW_US, whole));
  const known = sum(({ stretch }) => stretch.liveBytes);
  const ratio = known > 0 ? sum(({ otherBytes }) => otherBytes) / known : 0;
  const key = sum(({ keyBytes }) => keyBytes) / Math.max(1, sampled.length);
  return Math.round(key * keyframes + ratio * live * left);
}

/** Keyframes that a video has at least: at its pieces' beginnings, and where the distance between two is used up. */
export const leastKeyframes = (partsS: readonly number[], everyS: number): number =>
  partsS.reduce((sum, seconds) => sum + Math.max(1, Math.ceil(seconds / everyS - 1e-9)), 0);

import { type Cut, cutLengthUs, hereIn, placedPieces } from '../cut/cut';
import { partOfStep } from '../cut/step-part';
import type { RenderTake } from './take-sources';

/** A stretch of a cut that is encoded to learn from: a cut of its own. */
export type Stretch = {
  cut: Cut;
  /** Bytes that the live recorder took for its changes, keyframes left out. */
  liveBytes: number;
};

/** What came of a stretch, in the order in which they were asked for. */
export type Sampled = { stretch: Stretch; keyBytes: number; otherBytes: number };

const WINDOW_US = 1_000_000;
/**
 * A cut up to this length is encoded whole to learn from: most of it are keyframes, and what an encoder spends on one depends on all that
 * is predicted from it, of which a second shows too little.
 */
const SHORT_US = 6_000_000;
export const isSampledWhole = (cut: Cut): boolean => cutLengthUs(cut) <= SHORT_US;
/** Places in the order of how much changes: the middle, a busy one and the busiest; and up to where each stands for others. */
const PLACES = [
  { at: 0.5, upTo: 0.7 },
  { at: 0.9, upTo: 0.95 },
  { at: 1, upTo: 1 },
] as const;

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
  return placedPieces(cut).flatMap((placed) => {
    const { step, piece, startUs, endUs } = placed;
    const take = takes.find(({ id }) => id === piece.take);
    if (!take) return [];
    const count = Math.max(1, Math.floor((endUs - startUs) / WINDOW_US));
    return Array.from({ length: count }, (_, n): Stretch[] => {
      const from = hereIn(placed, startUs + n * WINDOW_US);
      const to = hereIn(placed, count === 1 ? endUs : startUs + (n + 1) * WINDOW_US);
      const part = partOfStep(step, from.hereUs, to.hereUs);
      if (!part) return [];
      return [
        {
          cut: { ...cut, steps: [{ ...part, entry: null }] },
          liveBytes: changes(take, from.takeUs, to.takeUs, step.layout.kind !== 'screen'),
        },
      ];
    }).flat();
  });
}

/**
 * Three seconds of a cut that say most about the size of all of it; a short one whole.
 */
export const stretchesToSample = (cut: Cut, takes: readonly RenderTake[]): Stretch[] =>
  isSampledWhole(cut) ? [{ cut, liveBytes: 0 }] : strata(cut, takes).map(({ sampled }) => sampled);

/** The seconds of a cut by how much changes in them, and which one stands for each lot. */
function strata(cut: Cut, takes: readonly RenderTake[]): { sampled: Stretch; all: Stretch[] }[] {
  const windows = windowsOf(cut, takes).sort((a, b) => a.liveBytes - b.liveBytes);
  const last = windows.length - 1;
  let from = 0;
  return PLACES.flatMap(({ at, upTo }, n) => {
    // One at least is left for each that comes after: the busiest is always looked at.
    const end = Math.min(Math.round(upTo * last) + 1, windows.length - (PLACES.length - 1 - n));
    if (end <= from) return [];
    const all = windows.slice(from, end);
    const sampled = windows[Math.max(from, Math.min(end - 1, Math.round(at * last)))];
    if (!sampled) return [];
    from = end;
    return [{ sampled, all }];
  });
}

/**
 * Bytes that the picture of all of a cut will take. Keyframes and changes apart: how many keyframes there will be is known, and how
 * much changes where, the live recorder has told. Each sampled second speaks for those that are as busy as it is: what an encoder makes
 * of a byte of the live recorder's is less where more moves.
 * @param sampled what came of `stretchesToSample`
 * @param keyframes of the finished video
 */
export function pictureBytesBySample(
  cut: Cut,
  takes: readonly RenderTake[],
  sampled: readonly Sampled[],
  keyframes: number,
): number {
  if (isSampledWhole(cut))
    return sampled.reduce((sum, { keyBytes, otherBytes }) => sum + keyBytes + otherBytes, 0);
  const lots = strata(cut, takes);
  const changes = lots.reduce((sum, { all }, n) => {
    const { stretch, otherBytes } = sampled[n] ?? { stretch: { liveBytes: 0 }, otherBytes: 0 };
    const live = all.reduce((bytes, { liveBytes }) => bytes + liveBytes, 0);
    return sum + (stretch.liveBytes > 0 ? (otherBytes * live) / stretch.liveBytes : otherBytes * all.length);
  }, 0);
  // The last part of a second is in no window.
  const seconds = lots.reduce((sum, { all }) => sum + all.length, 0);
  const left = Math.max(1, cutLengthUs(cut) / (Math.max(1, seconds) * WINDOW_US));
  const key = sampled.reduce((sum, { keyBytes }) => sum + keyBytes, 0) / Math.max(1, sampled.length);
  return Math.round(key * keyframes + changes * left);
}

/** Bytes of a container for each picture and each block of sound: size, place and time (ISO/IEC 14496-12, 8.6 and 8.7). */
const INDEX_BYTES = { picture: 16, sound: 8 };
/** AAC has 1024 samples a block, Opus 960. */
const BLOCKS_A_SECOND = 48;

/** What a file takes beside its pictures and sounds. */
export const containerBytes = (frames: number, seconds: number): number =>
  Math.round(frames * INDEX_BYTES.picture + seconds * BLOCKS_A_SECOND * INDEX_BYTES.sound);

/** Keyframes that a video has at least: at its pieces' beginnings, and where the distance between two is used up. */
export const leastKeyframes = (partsS: readonly number[], everyS: number): number =>
  partsS.reduce((sum, seconds) => sum + Math.max(1, Math.ceil(seconds / everyS - 1e-9)), 0);

import { clockText } from '../base/figures';
import { TRACK_NAMES, type TrackKind } from './take';

/** A time in which a track has nothing, because its source delivered nothing. */
export type Gap = { track: TrackKind; fromUs: number; toUs: number };

/** A pause between two segments of a track that is no absence: the next picture, the next chunk of sound. */
const LEAST_GAP_US = 150_000;

/**
 * Where sources were away.
 * @param segments first and last instant of each segment, on the take's clock, in any order
 * @param durationUs of the take: a track that ends before it has a gap at its end
 */
export function trackGaps(
  segments: readonly { track: TrackKind; startUs: number; endUs: number }[],
  durationUs: number,
): Gap[] {
  const gaps: Gap[] = [];
  for (const track of new Set(segments.map((segment) => segment.track))) {
    const own = segments.filter((segment) => segment.track === track).sort((a, b) => a.startUs - b.startUs);
    let fromUs = 0;
    for (const { startUs, endUs } of [...own, { startUs: durationUs, endUs: durationUs }]) {
      if (startUs - fromUs > LEAST_GAP_US) gaps.push({ track, fromUs, toUs: startUs });
      fromUs = Math.max(fromUs, endUs);
    }
  }
  return gaps.sort((a, b) => a.fromUs - b.fromUs);
}

/** "Camera: no signal from 0:12 to 0:19." */
export const gapSentence = ({ track, fromUs, toUs }: Gap): string =>
  `${TRACK_NAMES[track]}: no signal from ${clockText(fromUs)} to ${clockText(toUs)}.`;

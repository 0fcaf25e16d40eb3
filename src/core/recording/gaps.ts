import { clockText } from '../base/figures';
import { TRACK_NAMES, type TrackKind } from './take';

/** A time in which a track has nothing. */
export type Gap = {
  track: TrackKind;
  fromUs: number;
  toUs: number;
  /** `fault`: the recorder could not go on with it; otherwise its source delivered nothing. */
  why?: 'fault';
};

/** A pause between two segments of a track that is no absence: the next picture, the next chunk of sound. */
const LEAST_GAP_US = 150_000;

/** A fault's own instant is told when it is met, up to so long after the last packet. */
const FAULT_US = 2_000_000;

/**
 * Where tracks have nothing.
 * @param segments first and last instant of each segment, on the take's clock, in any order
 * @param durationUs of the take: a track that ends before it has a gap at its end
 * @param faults instants at which the recorder could not go on with a track
 * @param asked tracks that were to be recorded: one that never came is missing from beginning to end
 */
export function trackGaps(
  segments: readonly { track: TrackKind; startUs: number; endUs: number }[],
  durationUs: number,
  faults: readonly { track: TrackKind; tUs: number }[] = [],
  asked: readonly TrackKind[] = [],
): Gap[] {
  const gaps: Gap[] = [];
  for (const track of new Set([...asked, ...segments.map((segment) => segment.track)])) {
    const own = segments.filter((segment) => segment.track === track).sort((a, b) => a.startUs - b.startUs);
    let fromUs = 0;
    for (const { startUs, endUs } of [...own, { startUs: durationUs, endUs: durationUs }]) {
      const isFault = faults.some(
        (fault) =>
          fault.track === track && fault.tUs >= fromUs && fault.tUs <= Math.min(startUs, fromUs + FAULT_US),
      );
      if (startUs - fromUs > LEAST_GAP_US)
        gaps.push({ track, fromUs, toUs: startUs, ...(isFault && { why: 'fault' as const }) });
      fromUs = Math.max(fromUs, endUs);
    }
  }
  return gaps.sort((a, b) => a.fromUs - b.fromUs);
}

/** "Camera: no signal from 0:12 to 0:19." */
export const gapSentence = ({ track, fromUs, toUs, why }: Gap): string =>
  `${TRACK_NAMES[track]}: ${why === 'fault' ? 'not recorded' : 'no signal'} from ${clockText(fromUs)} to ${clockText(toUs)}.`;

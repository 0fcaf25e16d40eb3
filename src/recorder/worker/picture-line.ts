import type { FrameRate } from '@/core/base/rational';
import {
  arrive,
  decide,
  type FrameCounts,
  finishPacing,
  giveUp,
  lose,
  type Pacing,
  type PacingAct,
  showAgain,
  startPacing,
} from '@/core/recording/pacing';
import type { FrameAccount } from './frame-account';
import { elapsed, isPaused, type Recording, takeTime } from './recording';
import type { FrameTrace } from './take-trace';

/** A picture as its source stamped it, and the instant on the page's clock that this is. */
export type Stamped = { timestampUs: number; monotonicUs: number };

/** Which pictures of a source are a take's, and which of them are encoded when. It knows times, and no pixels. */
export type PictureLine = {
  readonly recording: () => Recording | null;
  /** Whether pictures are taken now. */
  readonly isRunning: () => boolean;
  /** @param held the picture that is at hand: the take begins with it */
  readonly start: (recording: Recording, held: { timestampUs: number } | null) => void;
  /** After a pause the take goes on with what is at hand now. */
  readonly resume: (held: { timestampUs: number } | null) => void;
  /** A picture arrived. @returns false when it is of after the film's end and must not stand for its last picture */
  readonly arrive: (picture: Stamped) => boolean;
  readonly isWaiting: () => boolean;
  /** What to do now, in the order of the calls. */
  readonly next: (isEncoderFree: boolean) => PacingAct;
  /** The take ends: what is still to be encoded. Nothing is taken after it. */
  readonly finish: (endUs: number) => readonly PacingAct[];
  readonly lost: (lost: { encoded: number; repeated: number }) => void;
  /** Shows the last picture again at once, unless one waits. */
  readonly again: () => PacingAct;
  /** There is no encoder any more. */
  readonly end: () => void;
  /** Take time at which something that begins now begins. */
  readonly startUs: () => number;
  readonly counts: () => FrameCounts;
};

/** What a frame that has arrived did to the one that waited. */
export type Arrival = Parameters<FrameTrace['arrived']>[0];

/** @param onArrival told of every frame of the take */
export function openPictureLine(
  rate: FrameRate,
  account: FrameAccount,
  nowUs: () => number,
  onArrival: (arrival: Arrival) => void = () => undefined,
): PictureLine {
  let pacing: Pacing = startPacing(rate);
  let recording: Recording | null = null;
  let ended = false;
  const elapsedUs = () => (recording ? elapsed(recording, nowUs()) : 0);
  /** @returns whether a frame was dropped for it */
  const take = (tUs: number, deliveryMs = 0, missed = 0): boolean => {
    const { dropped, skipped } = pacing.counts;
    pacing = arrive(pacing, tUs);
    const isDropped = pacing.counts.dropped > dropped;
    const replaced = isDropped ? 'dropped' : pacing.counts.skipped > skipped ? 'skipped' : null;
    onArrival({ tUs, deliveryMs, replaced, missed });
    return isDropped;
  };
  const begin = (held: { timestampUs: number } | null, tUs: number) => {
    if (!held) return;
    account.beginsWith(held.timestampUs);
    take(tUs);
  };
  const does = <T extends { pacing: Pacing }>(step: T): T => {
    pacing = step.pacing;
    return step;
  };
  return {
    recording: () => recording,
    isRunning: () => recording !== null && !ended && !isPaused(recording),
    start: (next, held) => {
      recording = next;
      begin(held, 0);
    },
    resume: (held) => {
      if (recording && !ended) begin(held, elapsedUs());
    },
    arrive: ({ timestampUs, monotonicUs }) => {
      if (recording && !ended && elapsed(recording, monotonicUs) >= recording.untilUs) return false;
      const tUs = recording && !ended && !isPaused(recording) ? takeTime(recording, monotonicUs) : null;
      if (tUs === null) {
        account.beginsWith(null);
        return true;
      }
      const missing = account.arrived(timestampUs);
      // Taken before the first instant but arrived after it: it is what the screen shows at the first instant.
      const deliveryMs = (nowUs() - monotonicUs) / 1000;
      if (take(Math.max(0, tUs), deliveryMs, missing) || missing > 0) account.droppedAt(tUs);
      return true;
    },
    isWaiting: () => pacing.waiting !== null,
    next: (isEncoderFree) => does(decide(pacing, elapsedUs(), isEncoderFree)).act,
    finish: (endUs) => {
      if (ended) return [];
      ended = true;
      return does(finishPacing(pacing, endUs)).acts;
    },
    lost: (lost) => {
      if (lost.encoded + lost.repeated === 0) return;
      pacing = lose(pacing, lost);
      account.droppedAt(pacing.lastUs ?? 0);
    },
    again: () => does(showAgain(pacing, elapsedUs())).act,
    end: () => {
      ended = true;
      pacing = giveUp(pacing);
    },
    startUs: () => pacing.waiting?.tUs ?? elapsedUs(),
    counts: () => pacing.counts,
  };
}

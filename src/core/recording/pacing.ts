import { type FrameRate, frameTimeUs } from '../base/rational';

/** What became of every picture that arrived: `arrived = encoded + skipped + dropped (+ 1 while one waits)`. */
export type FrameCounts = {
  arrived: number;
  encoded: number;
  /** Extra pictures made by showing the last one again while the source stood still; not part of `arrived`. */
  repeated: number;
  /** Replaced by a newer one because the source gave more than was asked. */
  skipped: number;
  /** Replaced by a newer one because the encoder was busy. This is what people call a lost frame. */
  dropped: number;
};

/**
 * Decides what becomes of each arriving picture. One picture at most waits, and the newer replaces the older: dropping
 * the newest instead would keep an outdated picture on screen through the still phase that follows.
 */
export type Pacing = {
  readonly rate: FrameRate;
  readonly repeatAfterUs: number;
  /** The instant from which the next picture is wanted. */
  readonly dueUs: number;
  /** Take time of the last encoded or repeated picture. */
  readonly lastUs: number | null;
  readonly waiting: { readonly tUs: number; readonly why: 'early' | 'busy' } | null;
  readonly counts: FrameCounts;
};

export type PacingAct =
  | { readonly act: 'wait' }
  /** Encode the waiting picture with this time. */
  | { readonly act: 'encode'; readonly tUs: number }
  /** Encode the last picture again with this time. */
  | { readonly act: 'repeat'; readonly tUs: number };

/** Two blocks of a Matroska track must not share a millisecond, the unit of its timestamps. */
const LEAST_STEP_US = 1000;
/** A repeat is dated this far back, so that a picture already on its way from the source is still newer. */
const REPEAT_LAG_US = 200_000;

/**
 * @param repeatAfterUs a still source's last picture is encoded again after this long, so that the track never falls
 *   behind the others by more
 */
export function startPacing(rate: FrameRate, repeatAfterUs = 1_000_000): Pacing {
  const counts = { arrived: 0, encoded: 0, repeated: 0, skipped: 0, dropped: 0 };
  return { rate, repeatAfterUs, dueUs: 0, lastUs: null, waiting: null, counts };
}

/**
 * A picture arrived. It now is the waiting one; the caller releases the one it replaces.
 * @param tUs its time on the take's clock
 */
export function arrive(pacing: Pacing, tUs: number): Pacing {
  const { waiting, counts } = pacing;
  const early = tUs < pacing.dueUs - toleranceUs(pacing);
  return {
    ...pacing,
    waiting: { tUs, why: early ? 'early' : 'busy' },
    counts: {
      ...counts,
      arrived: counts.arrived + 1,
      skipped: counts.skipped + (waiting?.why === 'early' ? 1 : 0),
      dropped: counts.dropped + (waiting?.why === 'busy' ? 1 : 0),
    },
  };
}

/**
 * What to do now. Call after each arrival, after each picture the encoder has finished, and on a timer.
 * @param nowUs the take's clock
 * @param encoderFree whether the encoder would start on a picture at once
 */
export function decide(
  pacing: Pacing,
  nowUs: number,
  encoderFree: boolean,
): { pacing: Pacing; act: PacingAct } {
  const { waiting, lastUs, counts } = pacing;
  if (!encoderFree) return { pacing, act: { act: 'wait' } };
  if (waiting) {
    // An early picture is kept until its slot: if nothing newer comes, it is the one that stays on screen.
    if (waiting.why === 'early' && nowUs < pacing.dueUs) return { pacing, act: { act: 'wait' } };
    return encode(pacing, waiting.tUs);
  }
  if (lastUs !== null && nowUs - lastUs >= pacing.repeatAfterUs + REPEAT_LAG_US) {
    const tUs = Math.max(lastUs + LEAST_STEP_US, nowUs - REPEAT_LAG_US);
    const repeated = { ...pacing, lastUs: tUs, counts: { ...counts, repeated: counts.repeated + 1 } };
    return { pacing: repeated, act: { act: 'repeat', tUs } };
  }
  return { pacing, act: { act: 'wait' } };
}

/**
 * The take ends: the waiting picture is encoded whatever its slot, otherwise the last one is repeated at the very end, so
 * that the track is as long as the take.
 */
export function finishPacing(pacing: Pacing, endUs: number): { pacing: Pacing; acts: PacingAct[] } {
  const acts: PacingAct[] = [];
  let now = pacing;
  if (now.waiting) {
    const last = encode(now, now.waiting.tUs);
    now = last.pacing;
    acts.push(last.act);
  }
  if (now.lastUs !== null && endUs - now.lastUs > frameTimeUs(1, now.rate)) {
    const tUs = endUs - LEAST_STEP_US;
    now = { ...now, lastUs: tUs, counts: { ...now.counts, repeated: now.counts.repeated + 1 } };
    acts.push({ act: 'repeat', tUs });
  }
  return { pacing: now, acts };
}

/**
 * The encoder failed with pictures in it.
 * @param lost how many of each never became packets; what was counted as encoded is dropped after all
 */
export function lose(pacing: Pacing, lost: { encoded: number; repeated: number }): Pacing {
  const { counts } = pacing;
  return {
    ...pacing,
    counts: {
      ...counts,
      encoded: counts.encoded - lost.encoded,
      dropped: counts.dropped + lost.encoded,
      repeated: counts.repeated - lost.repeated,
    },
  };
}

/** Nothing will be encoded any more: the waiting picture is dropped. */
export const giveUp = (pacing: Pacing): Pacing =>
  pacing.waiting
    ? { ...pacing, waiting: null, counts: { ...pacing.counts, dropped: pacing.counts.dropped + 1 } }
    : pacing;

/** The last picture is shown again at once: a new encoder begins with it, so that a still screen is not missing until it moves. */
export function showAgain(pacing: Pacing, nowUs: number): { pacing: Pacing; act: PacingAct } {
  const { lastUs, counts } = pacing;
  if (lastUs === null || pacing.waiting) return { pacing, act: { act: 'wait' } };
  const tUs = Math.max(lastUs + LEAST_STEP_US, Math.round(nowUs));
  return {
    pacing: { ...pacing, lastUs: tUs, counts: { ...counts, repeated: counts.repeated + 1 } },
    act: { act: 'repeat', tUs },
  };
}

/** The pictures that arrived and have no fate in the counts; 0 unless one is waiting. */
export const unaccounted = (counts: FrameCounts): number =>
  counts.arrived - counts.encoded - counts.skipped - counts.dropped;

/** Half an interval: sources jitter by less than that, and a source of exactly the asked rate must lose nothing. */
const toleranceUs = (pacing: Pacing) => frameTimeUs(1, pacing.rate) / 2;

function encode(pacing: Pacing, wantedUs: number): { pacing: Pacing; act: PacingAct } {
  const intervalUs = frameTimeUs(1, pacing.rate);
  const tUs = pacing.lastUs === null ? wantedUs : Math.max(wantedUs, pacing.lastUs + LEAST_STEP_US);
  const dueUs = Math.max(pacing.dueUs + intervalUs, tUs + intervalUs / 2);
  const counts = { ...pacing.counts, encoded: pacing.counts.encoded + 1 };
  return { pacing: { ...pacing, waiting: null, lastUs: tUs, dueUs, counts }, act: { act: 'encode', tUs } };
}

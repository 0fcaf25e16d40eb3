import { cutLengthUs } from '@/core/cut/cut';
import type { FromPlayer } from './messages';
import { type Lane, lanesSeen } from './reels';
import type { Stage } from './stage';

/** Where the player is. Whoever moves it says so here. */
export type Position = {
  /** Place in the cut. */
  us: number;
  /** The page's count of the place that is shown, or being made. */
  asked: number;
};

/** A place that the page asks for, and its count of it. */
export type Target = { us: number; asked: number };

export type Seeking = {
  /** Shows the exact pictures, and on the way there the keyframes before them; a newer seek ends an older one. */
  readonly seek: (to: Target) => Promise<void>;
  /**
   * The same without the keyframes, for steps of a frame. Keys come faster than pictures: each picture that is begun is shown, and the
   * next one is that of the newest step.
   */
  readonly step: (to: Target) => Promise<void>;
  /** What is being looked for is not wanted any more. */
  readonly end: () => void;
};

/** Pictures are only due while it plays. */
export const NOTHING_DUE = { due: 0, missed: 0 };

export function openSeeking(
  stage: Stage,
  position: Position,
  tell: (message: FromPlayer) => void,
  undrawn: (error: unknown) => void,
): Seeking {
  let seeks = 0;
  /** Where steps have come to that were not shown yet. */
  let steppedTo: Target | null = null;
  let isStepping = false;

  const tellShown = (exact: boolean) =>
    tell({ type: 'shown', us: position.us, asked: position.asked, exact, ...NOTHING_DUE });

  const show = async ({ us, asked }: Target, byKeys: boolean): Promise<void> => {
    const mine = ++seeks;
    const isWanted = () => mine === seeks;
    position.asked = asked;
    position.us = Math.max(0, Math.min(us, cutLengthUs(stage.cut())));
    const spot = stage.spotAt(position.us);
    if (!spot) return;
    await stage.prepareOpening(spot, position.us, isWanted);
    if (!isWanted()) return;
    const lanes = lanesSeen(spot);
    const waiting = new Set(lanes);
    const onPicture = async (lane: Lane, exact: boolean) => {
      waiting.delete(lane);
      // The last lane to show anything of the place may show the exact picture; then that is told below.
      if (!isWanted() || waiting.size > 0 || exact || !(await stage.draw(position.us))) return;
      tellShown(false);
    };
    await showLanes(lanes, spot.place.takeUs, byKeys, (lane, exact) => onPicture(lane, exact).catch(undrawn));
    if (!isWanted()) return;
    await stage.draw(position.us);
    if (!isWanted()) return;
    // Nobody waits for anything now: what lies about the pictures may be decoded.
    for (const { lane } of lanes) lane.settle();
    tellShown(true);
  };

  return {
    seek: (to) => {
      steppedTo = null;
      return show(to, true);
    },
    step: async (to) => {
      steppedTo = to;
      if (isStepping) return;
      isStepping = true;
      try {
        while (steppedTo !== null) {
          const next: Target = steppedTo;
          steppedTo = null;
          await show(next, false);
        }
      } finally {
        isStepping = false;
      }
    },
    end: () => {
      seeks++;
      steppedTo = null;
    },
  };
}

/**
 * Shows a time in all lanes. Where their keyframes are shown on the way, those after the first lane decode theirs at once but the rest
 * only after the first lane's keyframe: it is the largest, and they would take its processor.
 * @param onPicture called with a keyframe on the way, and with the exact picture
 */
async function showLanes(
  lanes: Lane[],
  takeUs: number,
  byKeys: boolean,
  onPicture: (lane: Lane, exact: boolean) => Promise<void>,
): Promise<void> {
  let seen = () => {};
  const firstSeen = new Promise<void>((done) => {
    seen = done;
  });
  const showLane = async (each: Lane, i: number) => {
    const onKey = () => {
      if (i === 0) seen();
      void onPicture(each, false);
    };
    try {
      if (byKeys) await each.lane.show(takeUs, onKey, i === 0 ? undefined : firstSeen);
      else await each.lane.show(takeUs);
    } finally {
      if (i === 0) seen();
    }
    await onPicture(each, true);
  };
  await Promise.all(lanes.map(showLane));
}

import { clockText } from '../base/figures';
import { fpsText } from '../base/rational';
import type { FrameLedger } from './take';

/** A few frames that were dropped, or so small a share of all, nobody sees. */
const FEW = 2;
const SMALL_SHARE = 0.005;

/** Whether so many of so many frames were dropped that it is seen. */
export const isSeenLoss = (lost: number, made: number): boolean => lost > FEW && lost / made > SMALL_SHARE;

/** Frames that are not in the file though the source made them, beside all that it made. */
export function lostFrames({ dropped, arrived, lostBefore }: FrameLedger): { lost: number; made: number } {
  const before = lostBefore ?? 0;
  return { lost: dropped + before, made: arrived + before };
}

export type FrameOutcome = {
  /** Whether the take has what was asked for. */
  asAsked: boolean;
  sentence: string;
};

/** The answer to "did I get the frame rate that I asked for?", in one sentence: how much is missing, and where. */
export function frameOutcome(ledger: FrameLedger): FrameOutcome {
  const target = `${fpsText(ledger.askedFps)} fps`;
  const { lost, made } = lostFrames(ledger);
  if (lost === 0)
    return { asAsked: true, sentence: `Recorded at the target of ${target}. No dropped frames.` };
  if (!isSeenLoss(lost, made))
    return {
      asAsked: true,
      sentence: `Recorded at the target of ${target}. ${lost} of ${made} frames dropped.`,
    };
  const where = whereText(ledger.droppedAtS ?? []);
  return {
    asAsked: false,
    sentence: `Below the target of ${target}: ${percentText(lost / made)} of the frames dropped (${lost} of ${made})${where}.`,
  };
}

/** Under one percent a digit more. */
const percentText = (share: number): string => `${(share * 100).toFixed(share < 0.01 ? 1 : 0)} %`;

/** Seconds of the take in which frames were dropped, as a reader looks for them. @param seconds in order */
function whereText(seconds: readonly number[]): string {
  const [first, last] = [seconds[0], seconds.at(-1)];
  if (first === undefined || last === undefined) return '';
  const at = (s: number) => clockText(s * 1e6);
  if (first === last) return `, at ${at(first)}`;
  // Nearly all seconds between the first and the last.
  if (seconds.length > 0.6 * (last - first + 1)) return `, from ${at(first)} to ${at(last + 1)}`;
  return `, in ${seconds.length} places between ${at(first)} and ${at(last + 1)}`;
}

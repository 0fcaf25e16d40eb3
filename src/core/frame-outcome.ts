import { clockText } from './figures';
import type { FrameLedger } from './take';

/** A few frames that were dropped, or so small a share of all, nobody sees. */
const FEW = 2;
const SMALL_SHARE = 0.005;

export type FrameOutcome = {
  /** Whether the take has what was asked for. */
  asAsked: boolean;
  sentence: string;
};

/** Frames that are not in the file though the source made them, and their share of all that it made, 0…1. */
export function lostFrames(ledger: FrameLedger): { lost: number; made: number; share: number } {
  const before = ledger.lostBefore ?? 0;
  const [lost, made] = [ledger.dropped + before, ledger.arrived + before];
  return { lost, made, share: made > 0 ? lost / made : 0 };
}

/** Whether so many frames were dropped that it is seen. */
export const isSeenLoss = (ledger: FrameLedger): boolean => {
  const { lost, share } = lostFrames(ledger);
  return lost > FEW && share > SMALL_SHARE;
};

/** The answer to "did I get the frame rate that I asked for?", in one sentence: how much is missing, and where. */
export function frameOutcome(ledger: FrameLedger): FrameOutcome {
  const asked = `${ledger.askedFps.toFixed(2).replace(/\.?0+$/, '')} fps`;
  const { lost, made, share } = lostFrames(ledger);
  if (lost === 0) return { asAsked: true, sentence: `Recorded at ${asked} as asked, no dropped frames.` };
  const count = `${lost} of ${made}`;
  if (!isSeenLoss(ledger))
    return { asAsked: true, sentence: `Recorded at ${asked} as asked, but for ${count} frames.` };
  const where = whereText(ledger.droppedAtS ?? []);
  return {
    asAsked: false,
    sentence: `Less than the ${asked} asked for: ${percentText(share)} of the frames were dropped (${count})${where}.`,
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

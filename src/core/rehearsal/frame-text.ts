import { bytesText } from '../base/figures';
import { type FrameMark, isLate, workMs } from './frame-trace';

/** What the fates of frames are called on the strip and in its key. */
export const FATE_NAMES = {
  'on-time': 'on time',
  late: 'late',
  unchanged: 'unchanged',
  skipped: 'skipped',
  dropped: 'dropped',
  missed: 'not delivered',
} as const;
/** As the strip draws it: what was recorded is on time or late. */
export type ShownFate = keyof typeof FATE_NAMES;

export const shownFate = (frame: FrameMark, budget: number): ShownFate =>
  frame.fate === 'recorded' ? (isLate(frame, budget) ? 'late' : 'on-time') : frame.fate;

/** A frame in one line, for whoever hears the strip: "Frame 211 at 7.03 s, late: 43 of 33 ms, 96 kB". */
export function frameText(frame: FrameMark, n: number, budget: number): string {
  const fate = shownFate(frame, budget);
  const at = `Frame ${n + 1} at ${(frame.tUs / 1e6).toFixed(2)} s, ${FATE_NAMES[fate]}`;
  if (fate !== 'on-time' && fate !== 'late') return at;
  return `${at}: ${workMs(frame).toFixed(0)} of ${budget.toFixed(0)} ms, ${bytesText(frame.bytes)}`;
}

import { budgetMs, type FrameMark, type RehearsalTrace, unpackFrame } from './frame-trace';

/** Two frames that are no further apart than this many budgets leave no gap. */
const NO_GAP = 1.5;

/**
 * The frames of a rehearsal. One that a source of a higher rate lost counts as skipped where those around it were recorded at the target:
 * it would not have been recorded either.
 */
export function framesOf(trace: Pick<RehearsalTrace, 'frames' | 'targetFps' | 'durationUs'>): FrameMark[] {
  const frames = trace.frames.map(unpackFrame);
  const shown = (frame: FrameMark) => frame.fate === 'recorded' || frame.fate === 'unchanged';
  const before: number[] = [];
  let last = 0;
  for (const frame of frames) {
    before.push(last);
    if (shown(frame)) last = frame.tUs;
  }
  let next = trace.durationUs;
  const gapUs = NO_GAP * budgetMs(trace) * 1000;
  for (let n = frames.length - 1; n >= 0; n--) {
    const frame = frames[n];
    if (!frame) continue;
    if (shown(frame)) next = frame.tUs;
    else if (frame.fate === 'missed' && next - (before[n] ?? 0) <= gapUs)
      frames[n] = { ...frame, fate: 'skipped' };
  }
  return frames;
}

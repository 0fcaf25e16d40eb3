import { type FrameMark, packFrame, type RehearsalTrace } from '@/core/rehearsal/frame-trace';

type Made = Partial<Omit<RehearsalTrace, 'frames'>> & { frames: FrameMark[] };

/** A frame that was recorded in time. */
export const frameAt = (tUs: number, more: Partial<FrameMark> = {}): FrameMark => ({
  ...{ tUs: Math.round(tUs), fate: 'recorded', deliveryMs: 4, waitMs: 1, composeMs: 0.5, encodeMs: 8 },
  ...{ bytes: 4000, key: false },
  ...more,
});

/**
 * Frames of so many seconds at a rate.
 * @param change what becomes of the frame at a time; null leaves it out
 */
export function framesFor(
  seconds: number,
  fps: number,
  change: (tS: number, n: number) => Partial<FrameMark> | null = () => ({}),
): FrameMark[] {
  return Array.from({ length: Math.round(seconds * fps) }, (_, n) => n).flatMap((n) => {
    const more = change(n / fps, n);
    return more ? [frameAt((n * 1e6) / fps, more)] : [];
  });
}

export const LOST = { encodeMs: 0, composeMs: 0, bytes: 0 } as const;

/** A trace of these frames in which nothing else happened. */
export const traceOf = ({ frames, ...more }: Made): RehearsalTrace => ({
  ...{ targetFps: 30, durationUs: Math.round((frames.at(-1)?.tUs ?? 0) + 33_333) },
  ...{ camera: null, writes: [], longTasks: [], soundGaps: [], upload: [] },
  ...more,
  frames: frames.map(packFrame),
});

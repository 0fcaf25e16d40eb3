import type { Fate, FrameMark, RehearsalTrace } from '@/core/rehearsal/frame-trace';
import { packFrame } from '@/core/rehearsal/frame-trace';

/** What a packet says of its frame. */
export type PacketTimes = { tUs: number; composeMs: number; encodeMs: number; bytes: number; key: boolean };

/** Notes what becomes of every frame of one picture track. */
export type FrameTrace = {
  /**
   * A frame has arrived and now waits.
   * @param replaced what became of the one that waited before it
   * @param missed frames that the source made since the last one and that never came
   */
  readonly arrived: (frame: {
    tUs: number;
    deliveryMs: number;
    replaced: 'skipped' | 'dropped' | null;
    missed: number;
  }) => void;
  /** The waiting frame goes to the encoder with this time. */
  readonly given: (tUs: number) => void;
  /** The last frame is shown again. */
  readonly repeated: (tUs: number) => void;
  readonly packet: (times: PacketTimes) => void;
  readonly end: () => RehearsalTrace['frames'];
};

/** Notes every frame, and what holds the recorder up, while a rehearsal is recorded. */
export type TakeTrace = {
  readonly frames: Readonly<Record<'screen' | 'camera', FrameTrace>>;
  readonly wrote: (write: { atUs: number; ms: number; bytes: number }) => void;
  readonly soundGap: (gap: { track: 'voice' | 'app-sound'; atUs: number; ms: number }) => void;
  readonly end: () => Pick<RehearsalTrace, 'frames' | 'writes' | 'soundGaps'> & {
    cameraFrames: RehearsalTrace['frames'];
  };
};

/** A write that took less holds nothing up. */
const LEAST_WRITE_MS = 0.2;

/** @param nowUs monotonic */
export function openTakeTrace(nowUs: () => number): TakeTrace {
  const frames = { screen: openFrameTrace(nowUs), camera: openFrameTrace(nowUs) };
  const writes: RehearsalTrace['writes'] = [];
  const soundGaps: RehearsalTrace['soundGaps'] = [];
  return {
    frames,
    wrote: (write) => {
      if (write.ms >= LEAST_WRITE_MS) writes.push(write);
    },
    soundGap: (gap) => {
      soundGaps.push(gap);
    },
    end: () => ({ frames: frames.screen.end(), cameraFrames: frames.camera.end(), writes, soundGaps }),
  };
}

/** @param nowUs monotonic */
function openFrameTrace(nowUs: () => number): FrameTrace {
  const frames: FrameMark[] = [];
  const byTime = new Map<number, FrameMark>();
  let waiting: { frame: FrameMark; sinceUs: number } | null = null;
  let lastUs = 0;

  const note = (tUs: number, fate: Fate, deliveryMs = 0): FrameMark => {
    const frame = {
      ...{ tUs: Math.max(0, tUs), fate, deliveryMs: Math.max(0, deliveryMs) },
      ...{ waitMs: 0, composeMs: 0, encodeMs: 0, bytes: 0, key: false },
    };
    frames.push(frame);
    return frame;
  };

  return {
    arrived: ({ tUs, deliveryMs, replaced, missed }) => {
      if (waiting && replaced) waiting.frame.fate = replaced;
      // Where they would have been.
      for (let n = 1; n <= missed; n++) note(lastUs + ((tUs - lastUs) * n) / (missed + 1), 'missed');
      lastUs = tUs;
      // Until its packet comes it counts as one that was dropped.
      waiting = { frame: note(tUs, 'dropped', deliveryMs), sinceUs: nowUs() };
    },
    given: (tUs) => {
      if (!waiting) return;
      waiting.frame.waitMs = (nowUs() - waiting.sinceUs) / 1000;
      byTime.set(tUs, waiting.frame);
      waiting = null;
    },
    repeated: (tUs) => {
      byTime.set(tUs, note(tUs, 'unchanged'));
    },
    packet: ({ tUs, ...times }) => {
      const frame = byTime.get(tUs);
      if (!frame) return;
      Object.assign(frame, times, frame.fate === 'unchanged' ? {} : { fate: 'recorded' });
    },
    end: () => [...frames].sort((a, b) => a.tUs - b.tUs).map(packFrame),
  };
}

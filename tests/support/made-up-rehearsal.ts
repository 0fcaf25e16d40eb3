import { newRehearsalId } from '@/core/base/ids';
import { type RehearsalReport, type RehearsalView, summaryOf } from '@/core/rehearsal/rehearsal';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { framesFor, LOST, traceOf } from './made-up-trace';

/** What a browser reports of a rehearsal in which nothing was wrong, but for what is given. */
export const aReport = (more: Partial<RehearsalReport> = {}): RehearsalReport => ({
  ...{ id: newRehearsalId(), rig: PRACTICE_RIG, startedAt: '2026-11-28T10:00:00.000Z', browser: 'A browser' },
  machine: { cores: 2, memoryGb: 8 },
  trace: traceOf({ frames: framesFor(10, 30) }),
  encoder: { codec: 'h264', textHint: false, size: { width: 1920, height: 1080 } },
  kbps: { screen: 900, camera: 0, voice: 64, appSound: 0 },
  ...{ cameraDropped: 0, clarity: null, load: null, yardstick: null },
  ...more,
});

/** The same in the ledger. */
export const rehearsed = (more: Partial<RehearsalReport> = {}, number = 1): RehearsalView => ({
  ...summaryOf(aReport(more)),
  number,
});

/** Frames of an encoder that needs so many milliseconds a frame while something moves. */
export const slowEncoder = (encodeMs: number) =>
  traceOf({
    frames: framesFor(10, 30, (tS, n) =>
      tS > 3 && n % 3 === 0 ? { ...LOST, fate: 'dropped' } : { encodeMs: tS > 3 ? encodeMs : 8 },
    ),
  });

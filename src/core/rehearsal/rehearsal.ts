import { z } from 'zod';
import { RehearsalId } from '../base/ids';
import { Size } from '../base/sizes';
import { VideoCodec } from '../codec/codecs';
import { TakeHead } from '../recording/take';
import { Rig } from '../rig/rig';
import { Diagnosis, diagnose } from './diagnosis';
import { figuresOf, RehearsalFigures } from './figures';
import { RehearsalTrace } from './frame-trace';
import { Load, Yardstick } from './load';

/** Text clarity of what was encoded beside what was captured: the mean of some frames, and the worst; 1 is no difference. */
export const MeasuredClarity = z.object({
  mean: z.number().min(0).max(1),
  worst: z.number().min(0).max(1),
  frames: z.int().min(1),
});
export type MeasuredClarity = z.infer<typeof MeasuredClarity>;

const Kbps = z.number().min(0).max(1e6);

/** A rehearsal as the browser reports it. What is recorded in it is thrown away; this stays. */
export const RehearsalReport = z.object({
  id: RehearsalId,
  rig: Rig,
  startedAt: z.iso.datetime(),
  browser: TakeHead.shape.browser,
  machine: TakeHead.shape.machine,
  trace: RehearsalTrace,
  /** What really encoded the screen; null where nothing was encoded. */
  encoder: z.object({ codec: VideoCodec, textHint: z.boolean(), size: Size }).nullable(),
  /** What each track came to, kb/s. */
  kbps: z.object({ screen: Kbps, camera: Kbps, voice: Kbps, appSound: Kbps }),
  /** Dropped by the camera's encoder. */
  cameraDropped: z.int().min(0),
  /** Null where no text was found. */
  clarity: MeasuredClarity.nullable(),
  load: z.object({ before: Load, during: Load }).nullable(),
  yardstick: Yardstick.nullable(),
});
export type RehearsalReport = z.infer<typeof RehearsalReport>;

/** What the ledger of a lesson shows of a rehearsal. */
export const RehearsalSummary = RehearsalReport.omit({ trace: true }).extend({
  durationUs: z.int().min(0),
  figures: RehearsalFigures,
  diagnosis: Diagnosis,
});
export type RehearsalSummary = z.infer<typeof RehearsalSummary>;

/** A rehearsal in the ledger; `number` counts within the lesson, from 1. */
export type RehearsalView = RehearsalSummary & { number: number };

/** What a report comes to. */
export function summaryOf({ trace, ...rest }: RehearsalReport): RehearsalSummary {
  return {
    ...rest,
    durationUs: trace.durationUs,
    figures: figuresOf(trace),
    diagnosis: diagnose(trace),
  };
}

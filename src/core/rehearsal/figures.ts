import { z } from 'zod';
import { percentile } from '../base/percentile';
import { budgetMs, type FrameMark, isLate, type RehearsalTrace, type Spell, workMs } from './frame-trace';
import { framesOf } from './frames-of';

const Figure = z.number().min(0);

/** Median time of each stage for a frame, ms. */
const StageTimes = z.object({
  delivery: Figure,
  wait: Figure,
  compose: Figure,
  encode: Figure,
  frames: z.int().min(0),
});
export type StageTimes = z.infer<typeof StageTimes>;

export const RehearsalFigures = z.object({
  targetFps: Figure,
  /** The target less what was dropped or missed. */
  recordedFps: Figure,
  onTime: z.int().min(0),
  late: z.int().min(0),
  unchanged: z.int().min(0),
  skipped: z.int().min(0),
  dropped: z.int().min(0),
  missed: z.int().min(0),
  encodeP50Ms: Figure,
  encodeP95Ms: Figure,
  /** While little and while much of the picture changed; null where there was nothing of the kind. */
  idle: StageTimes.nullable(),
  busy: StageTimes.nullable(),
  /** Median time of a write to the browser's disk, and the longest. */
  writeP50Ms: Figure,
  writeMostMs: Figure,
  /** Silence that was filled in for a sound device that delivered nothing, all tracks together. */
  soundGapsMs: Figure,
  /** Time in which the page could do nothing else. */
  longTasksMs: Figure,
  /** Of the screen alone. */
  bytesPerMinute: Figure,
  /** How long the server would still need for what it had not got at the end; null where nothing was sent. */
  uploadBehindMs: Figure.nullable(),
  /** Seconds in which something moved. */
  movedS: z.int().min(0),
});
export type RehearsalFigures = z.infer<typeof RehearsalFigures>;

/** Sources, encoders and the page warm up: the first second says nothing of the rest. */
export const WARM_UP_US = 1_000_000;

/** A frame that cost so few bytes shows hardly a change. */
const STILL_BYTES = 300;
/** So many frames with changes make a second that moves. */
const MOVING_FRAMES = 3;

const sum = (spells: readonly Spell[]): number => spells.reduce((total, { ms }) => total + ms, 0);
const median = (values: readonly number[]): number => percentile(values, 0.5);

/** Frames that were made, whatever became of them. */
export const isMade = ({ fate }: FrameMark): boolean => fate !== 'unchanged';
export const isLost = ({ fate }: FrameMark): boolean => fate === 'dropped' || fate === 'missed';

const timesOf = (frames: readonly FrameMark[]): StageTimes | null =>
  frames.length === 0
    ? null
    : {
        delivery: median(frames.map(({ deliveryMs }) => deliveryMs)),
        wait: median(frames.map(({ waitMs }) => waitMs)),
        compose: median(frames.map(({ composeMs }) => composeMs)),
        encode: median(frames.map(({ encodeMs }) => encodeMs)),
        frames: frames.length,
      };

/** The frames after the warm-up; all of them where a rehearsal is no longer than that. */
export function judgedFrames(trace: RehearsalTrace): FrameMark[] {
  const all = framesOf(trace);
  return trace.durationUs > 2 * WARM_UP_US ? all.filter(({ tUs }) => tUs >= WARM_UP_US) : all;
}

/** Seconds of the take in which something moved. */
export function movedSeconds(frames: readonly FrameMark[]): number {
  const changes = new Map<number, number>();
  for (const frame of frames)
    if (isLost(frame) || (frame.fate === 'recorded' && !frame.key && frame.bytes > STILL_BYTES)) {
      const second = Math.floor(frame.tUs / 1e6);
      changes.set(second, (changes.get(second) ?? 0) + 1);
    }
  return [...changes.values()].filter((count) => count >= MOVING_FRAMES).length;
}

/** Whether too little moved for the rehearsal to say anything about what the teacher is going to do. */
export const isTooStill = (figures: Pick<RehearsalFigures, 'movedS'>, durationUs: number): boolean =>
  figures.movedS < Math.min(2, 0.2 * (durationUs / 1e6));

/**
 * What a rehearsal came to. The first second is left out but for the bytes.
 * @returns figures whose counts add up to the judged frames
 */
export function figuresOf(trace: RehearsalTrace): RehearsalFigures {
  const budget = budgetMs(trace);
  const frames = judgedFrames(trace);
  const recorded = frames.filter(({ fate }) => fate === 'recorded');
  const late = recorded.filter((frame) => isLate(frame, budget)).length;
  const count = (fate: FrameMark['fate']) => frames.filter((frame) => frame.fate === fate).length;
  const [dropped, missed] = [count('dropped'), count('missed')];
  const kept = recorded.length + dropped + missed;
  const work = recorded.filter(({ key }) => !key).sort((a, b) => a.bytes - b.bytes);
  const half = Math.floor(work.length / 2);
  const encodeMs = recorded.map(workMs);
  const writes = trace.writes.map(({ ms }) => ms);
  const bytes = trace.frames.reduce((total, frame) => total + frame[6], 0);
  return {
    targetFps: trace.targetFps,
    recordedFps: kept === 0 ? trace.targetFps : (trace.targetFps * recorded.length) / kept,
    onTime: recorded.length - late,
    ...{ late, dropped, missed },
    unchanged: count('unchanged'),
    skipped: count('skipped'),
    encodeP50Ms: median(encodeMs),
    encodeP95Ms: percentile(encodeMs, 0.95),
    idle: timesOf(work.slice(0, half)),
    busy: timesOf(work.slice(half)),
    writeP50Ms: median(writes),
    writeMostMs: Math.max(0, ...writes),
    soundGapsMs: sum(trace.soundGaps),
    longTasksMs: sum(trace.longTasks),
    bytesPerMinute: trace.durationUs === 0 ? 0 : (bytes * 60e6) / trace.durationUs,
    uploadBehindMs: uploadBehindMs(trace),
    movedS: movedSeconds(frames),
  };
}

/** How long the server would still need for what it had not got when the rehearsal ended, at the rate at which it got the rest, ms. */
function uploadBehindMs({ upload }: RehearsalTrace): number | null {
  const [first, last] = [upload[0], upload.at(-1)];
  if (!first || !last || last.atUs <= first.atUs) return null;
  const perMs = ((last.sentBytes - first.sentBytes) * 1000) / (last.atUs - first.atUs);
  const behind = last.recordedBytes - last.sentBytes;
  if (behind <= 0) return 0;
  return perMs > 0 ? behind / perMs : (last.atUs - first.atUs) / 1000;
}

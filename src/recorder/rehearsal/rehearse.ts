import { type LessonId, newRehearsalId, newTakeId, type TakeId } from '@/core/base/ids';
import { framesPerSecond } from '@/core/base/rational';
import { codecOfString } from '@/core/codec/fourcc';
import type { SegmentHead } from '@/core/recording/take';
import type { RehearsalTrace } from '@/core/rehearsal/frame-trace';
import { loadBetween } from '@/core/rehearsal/load';
import type { RehearsalReport } from '@/core/rehearsal/rehearsal';
import type { Rig } from '@/core/rig/rig';
import type { PracticeDesk } from '@/practice/practice-desk';
import type { Recorder } from '../engine';
import { partName, rehearsalFolder } from '../journal';
import { machineFacts } from '../machine';
import { readLoad } from './read-load';
import { openUploadCheck } from './upload-check';
import { watchLongTasks } from './watch-long-tasks';
import { openYardstick } from './yardstick';

/** The recorded screen of a rehearsal, for as long as no other rehearsal begins. */
export type RehearsalFilm = {
  parts: { startUs: number; file: File }[];
  /** Time of the film ÷ time of the work: not 1 for a time-lapse. */
  speed: number;
};

export type Rehearsal = { report: RehearsalReport; film: RehearsalFilm };

/** What a rehearsal is doing, for the page. */
export type RehearsalProgress = { phase: 'comparing' | 'recording' | 'judging'; leftMs: number };

type Options = {
  recorder: Recorder;
  lessonId: LessonId;
  rig: Rig;
  desk: () => PracticeDesk | null;
  lengthS: number;
  /** For so long the machine is watched before anything is recorded. */
  compareMs?: number;
  /** Ends it early; what was recorded until then is judged. */
  signal: AbortSignal;
  onProgress: (progress: RehearsalProgress) => void;
};

const BEFORE_MS = 1500;
const PROGRESS_MS = 250;
/** Less says nothing. */
const LEAST_MS = 1500;

/**
 * Records for some seconds with the lesson's own recorder, and reports every frame of it.
 * @throws {ProblemError} what kept the recorder from starting; a rehearsal that was ended before anything could be said is an `AbortError`
 */
export async function rehearse(options: Options): Promise<Rehearsal> {
  const { recorder, lessonId, rig, desk, lengthS, signal, onProgress, compareMs = BEFORE_MS } = options;
  const tick = (phase: RehearsalProgress['phase'], ms: number) =>
    countDown(ms, signal, (leftMs) => onProgress({ phase, leftMs }));
  const yardstick = openYardstick();
  try {
    const first = await readLoad();
    await tick('comparing', compareMs);
    signal.throwIfAborted();
    const before = { load: await readLoad(), yardstickMs: yardstick.take() };
    const speed = rig.picture.speed.num / rig.picture.speed.den;
    const id = newTakeId();
    const startedAt = new Date().toISOString();
    await desk()?.cue();
    const baseUs = await recorder.start({ id, lessonId, rig, startedAt, ...machineFacts() }, lengthS * 1e6);
    const upload = openUploadCheck(recorder, baseUs);
    const longTasks = watchLongTasks(baseUs);
    const began = performance.now();
    await tick('recording', lengthS * 1000);
    const during = { load: await readLoad(), yardstickMs: yardstick.take() };
    const sent = upload.close();
    const tasks = longTasks();
    onProgress({ phase: 'judging', leftMs: 0 });
    const { end, rehearsed } = await recorder.stopRehearsal();
    if (performance.now() - began < LEAST_MS) throw new DOMException('It was ended too early.', 'AbortError');
    // The machine works in the time of the work, whatever the film's is.
    const inWorkTime = (frames: RehearsalTrace['frames']): RehearsalTrace['frames'] =>
      frames.map(([tUs, ...rest]) => [Math.round(tUs / speed), ...rest]);
    const trace: RehearsalTrace = {
      targetFps: framesPerSecond(rig.picture.frameRate) * speed,
      durationUs: Math.round(end.durationUs / speed),
      frames: inWorkTime(rehearsed.frames),
      camera: rig.camera && {
        targetFps: framesPerSecond(rig.camera.frameRate) * speed,
        frames: inWorkTime(rehearsed.cameraFrames),
      },
      ...{ writes: rehearsed.writes, soundGaps: rehearsed.soundGaps },
      ...{ longTasks: tasks, upload: sent },
    };
    const loads =
      first && before.load && during.load
        ? { before: loadBetween(first, before.load), during: loadBetween(before.load, during.load) }
        : null;
    return {
      report: {
        id: newRehearsalId(),
        ...{ rig, startedAt, trace, ...machineFacts() },
        encoder: encoderOf(rehearsed.segments),
        kbps: await kbpsOf(id, rehearsed.segments, end.durationUs),
        cameraDropped: end.ledger.camera?.dropped ?? 0,
        clarity: rehearsed.clarity,
        load: loads?.before && loads.during ? { before: loads.before, during: loads.during } : null,
        yardstick:
          before.yardstickMs && during.yardstickMs
            ? { beforeMs: before.yardstickMs, duringMs: during.yardstickMs }
            : null,
      },
      film: { parts: await filmOf(id, rehearsed.segments), speed },
    };
  } finally {
    yardstick.close();
  }
}

/** Waits, and tells every quarter second how much is left. */
async function countDown(ms: number, signal: AbortSignal, onLeft: (leftMs: number) => void): Promise<void> {
  const untilMs = performance.now() + ms;
  await new Promise<void>((done) => {
    const look = () => {
      const leftMs = untilMs - performance.now();
      onLeft(Math.max(0, leftMs));
      if (leftMs > 0 && !signal.aborted) return;
      clearInterval(timer);
      done();
    };
    const timer = setInterval(look, PROGRESS_MS);
    signal.addEventListener('abort', look, { once: true });
    look();
  });
}

/** What encoded the screen at last. */
function encoderOf(segments: readonly SegmentHead[]): RehearsalReport['encoder'] {
  const last = segments.findLast(({ track }) => track === 'screen')?.configuration;
  if (last?.type !== 'video') return null;
  const codec = codecOfString(last.codec);
  return codec ? { codec, textHint: last.textHint, size: { width: last.width, height: last.height } } : null;
}

/** What each track came to on the disk. */
async function kbpsOf(
  id: TakeId,
  segments: readonly SegmentHead[],
  durationUs: number,
): Promise<RehearsalReport['kbps']> {
  const folder = await rehearsalFolder(id);
  const kbps = { screen: 0, camera: 0, voice: 0, appSound: 0 };
  for (const { id: segment, track } of segments) {
    const key = track === 'app-sound' ? 'appSound' : track;
    if (key === 'events') continue;
    const { size } = await (await folder.getFileHandle(partName(segment, 'media'))).getFile();
    kbps[key] += (size * 8000) / Math.max(1, durationUs);
  }
  return kbps;
}

async function filmOf(id: TakeId, segments: readonly SegmentHead[]): Promise<RehearsalFilm['parts']> {
  const folder = await rehearsalFolder(id);
  const screen = segments.filter(({ track }) => track === 'screen');
  return Promise.all(
    screen.map(async (segment) => ({
      startUs: segment.startUs,
      file: await (await folder.getFileHandle(partName(segment.id, 'media'))).getFile(),
    })),
  );
}

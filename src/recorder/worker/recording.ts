import { elapsedUs, pausesOnTake, startClock, type TakeClock, takeTimeUs } from '@/core/recording/clock';
import type { Speed } from '@/core/rig/rig';
import type { RehearsalNotes } from './rehearsal-notes';
import type { TakeFiles } from './segment';

/** The take that is being recorded, shared by its tracks. `clock` is replaced when it pauses and resumes. */
export type Recording = {
  clock: TakeClock;
  /** Seconds of film that a second of work becomes: the take's time is the film's. */
  readonly speed: Speed;
  /** Where the film ends automatically, µs; what comes later is not in it. */
  readonly untilUs: number;
  readonly files: TakeFiles;
  /** Of a rehearsal; null for a take, of which only the counts are kept. */
  readonly rehearsal: RehearsalNotes | null;
  /** The next segment's number in a track. */
  readonly nextIndex: (track: string) => number;
  readonly hasSegments: (track: string) => boolean;
};

export function newRecording(
  baseUs: number,
  files: TakeFiles,
  speed: Speed = { num: 1, den: 1 },
  lengthS: number | null = null,
  rehearsal: RehearsalNotes | null = null,
): Recording {
  const counts = new Map<string, number>();
  return {
    clock: startClock(baseUs),
    speed,
    untilUs: lengthS === null ? Number.POSITIVE_INFINITY : lengthS * 1e6,
    files,
    rehearsal,
    nextIndex: (track) => {
      const index = counts.get(track) ?? 0;
      counts.set(track, index + 1);
      return index;
    },
    hasSegments: (track) => counts.has(track),
  };
}

export const isPaused = (recording: Recording): boolean => recording.clock.pausedSinceUs !== null;
const film = ({ speed }: Recording, workUs: number): number => Math.round((workUs * speed.num) / speed.den);

/**
 * Time on the take of a monotonic instant, of pictures, sounds and events alike: negative before its first instant, null in a pause and
 * after its end.
 */
export function takeTime(recording: Recording, monotonicUs: number): number | null {
  const workUs = takeTimeUs(recording.clock, monotonicUs);
  const tUs = workUs === null ? null : film(recording, workUs);
  return tUs === null || tUs >= recording.untilUs ? null : tUs;
}
/** Time elapsed on the take. */
export const elapsed = (recording: Recording, nowUs: number) =>
  Math.min(recording.untilUs, film(recording, elapsedUs(recording.clock, nowUs)));
/** Time that was worked for it. */
export const worked = (recording: Recording, nowUs: number) => elapsedUs(recording.clock, nowUs);
/** The pauses as they are kept: where on the take, and how long nobody worked. */
export const pauses = (recording: Recording) =>
  pausesOnTake(recording.clock).map((pause) => ({ ...pause, atUs: film(recording, pause.atUs) }));

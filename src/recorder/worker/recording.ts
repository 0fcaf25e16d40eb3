import { elapsedUs, startClock, type TakeClock, takeTimeUs } from '@/core/clock';
import type { TakeFiles } from './segment';

/** The take that is being recorded, shared by its tracks. `clock` is replaced when it pauses and resumes. */
export type Recording = {
  clock: TakeClock;
  readonly files: TakeFiles;
  /** The next segment's number in a track. */
  readonly nextIndex: (track: string) => number;
  readonly hasSegments: (track: string) => boolean;
};

export function newRecording(baseUs: number, files: TakeFiles): Recording {
  const counts = new Map<string, number>();
  return {
    clock: startClock(baseUs),
    files,
    nextIndex: (track) => {
      const index = counts.get(track) ?? 0;
      counts.set(track, index + 1);
      return index;
    },
    hasSegments: (track) => counts.has(track),
  };
}

export const isPaused = (recording: Recording): boolean => recording.clock.pausedSinceUs !== null;
export const takeTime = (recording: Recording, monotonicUs: number) =>
  takeTimeUs(recording.clock, monotonicUs);
export const elapsed = (recording: Recording, nowUs: number) => elapsedUs(recording.clock, nowUs);

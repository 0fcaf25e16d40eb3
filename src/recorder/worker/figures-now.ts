import type { Figures } from '../messages';
import { elapsed, isPaused, type Recording } from './recording';
import type { SoundTrack } from './sound-track';
import type { VideoTrack } from './video-track';

type Now = {
  /** Null while no take is recorded. */
  recording: Recording | null;
  failed: Figures['failed'];
  videos: ReadonlyMap<'screen' | 'camera', VideoTrack>;
  sounds: ReadonlyMap<'voice' | 'app-sound', SoundTrack>;
  /** All of them, with those whose source went in the middle of the take. */
  tracks: readonly (VideoTrack | SoundTrack)[];
  bytes: number;
  /** How long the browser's storage lasts; null until it was looked at. */
  roomS: number | null;
  nowUs: number;
};

/** What the page is told of the sources and of the take. */
export function figuresNow({ recording, failed, videos, sounds, tracks, bytes, roomS, nowUs }: Now): Figures {
  const levels = [...sounds].map(([role, track]) => [role, track.level()] as const);
  return {
    recording: recording !== null,
    paused: recording !== null && isPaused(recording),
    elapsedUs: recording ? elapsed(recording, nowUs) : 0,
    ...{ bytes, roomS },
    unwritten: tracks.reduce((sum, track) => sum + track.unwritten(), 0),
    video: Object.fromEntries([...videos].map(([role, track]) => [role, track.figures()])),
    levels: Object.fromEntries(levels),
    failed,
    heard: Object.fromEntries(
      levels.map(([role, db]) => [role, sounds.get(role)?.heard(db)]).filter(([, heard]) => heard),
    ),
  };
}

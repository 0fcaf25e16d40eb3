import { openMuting } from '@/core/audio/muting';
import type { Heard } from '@/core/audio/sound-heard';
import { newBell } from '@/core/base/bell';
import { SILENCE_DB } from '@/core/base/decibels';
import type { SoundSettings } from '../messages';
import type { Recovery } from './fault';
import type { Recording } from './recording';
import { openPlacing } from './sound-placing';
import { openSoundSource } from './sound-source';
import { openSoundWriter } from './sound-writer';
import type { SourceClock } from './source-clock';

export type SoundTrack = {
  readonly role: 'voice' | 'app-sound';
  readonly clock: SourceClock;
  readonly start: (recording: Recording) => void;
  readonly mute: (muted: boolean) => void;
  readonly stop: (endUs: number) => Promise<void>;
  readonly release: () => void;
  /** Peak since the last call, dBFS. */
  readonly level: () => number;
  /** Measurements besides that level; call it after each. Undefined until sound arrives. */
  readonly heard: (peakDb: number) => Heard | undefined;
  readonly bytes: () => number;
  readonly unwritten: () => number;
};

type Options = {
  role: 'voice' | 'app-sound';
  readable: ReadableStream<AudioData>;
  sound: SoundSettings;
  clock: SourceClock;
  nowUs: () => number;
  onRecovery: (recovery: Recovery) => void;
  onEnded: () => void;
  onProblem: (error: unknown) => void;
};

const LAST_CHUNKS_MS = 250;
const KEEP_UP_MS = 250;

/** One sound track: its source reads, its placing says where on the take each sample is, its writer encodes. */
export function openSoundTrack(options: Options): SoundTrack {
  const { role, clock, nowUs } = options;
  const muting = openMuting();
  const writer = openSoundWriter(options);
  const placing = openPlacing(role, writer, nowUs);
  /** Rings with every chunk that comes. */
  const more = newBell();
  const source = openSoundSource({
    ...options,
    onSound: (sound) => {
      placing.place(sound, (planes) => muting.apply(planes, sound.sampleRate));
      more.ring();
    },
  });
  const keepUp = setInterval(placing.keepUp, KEEP_UP_MS);
  return {
    ...{ role, clock, bytes: writer.bytes, unwritten: writer.unwritten, heard: source.heard },
    start: placing.start,
    mute: (muted) => muting.set(muted, !placing.isStarted()),
    stop: async (endUs) => {
      placing.endAt(endUs);
      // The last words are still on their way from the device.
      const limit = AbortSignal.timeout(LAST_CHUNKS_MS);
      limit.addEventListener('abort', more.ring);
      while (!limit.aborted && placing.isShort()) await more.next();
      clearInterval(keepUp);
      placing.finish();
      await writer.close();
    },
    release: () => {
      clearInterval(keepUp);
      placing.abandon();
      source.release();
    },
    level: () => {
      const db = source.level();
      return muting.isMuted() ? SILENCE_DB : db;
    },
  };
}

import { type Heard, openEars, openHearing } from '@/core/audio/sound-heard';
import { openSoundResampler, type SoundResampler } from '@/core/audio/sound-resample';
import { openLiveTreatment, TREATMENT_RATE } from '@/core/audio/treatment-line';
import { decibels, peakOf, SILENCE_DB } from '@/core/base/decibels';
import { fetchDenoiser } from '@/sound/denoiser';
import type { SoundSettings } from '../messages';
import { planesOf } from './planes';
import type { SourceClock } from './source-clock';

/** A piece of sound as it is recorded: treated and at the rate that the rig asks for. */
export type Sound = {
  /** One for each channel. */
  planes: Float32Array[];
  sampleRate: number;
  /** Instant of its first sample on the page's clock. */
  monotonicUs: number;
};

/** A sound source being read, and heard for the meters whether or not it is being recorded. */
export type SoundSource = {
  /** Peak since the last call, dBFS. */
  readonly level: () => number;
  /** Measurements besides that level; call it after each. Undefined until sound arrives. */
  readonly heard: (peakDb: number) => Heard | undefined;
  readonly release: () => void;
};

type Options = {
  readable: ReadableStream<AudioData>;
  sound: SoundSettings;
  clock: SourceClock;
  nowUs: () => number;
  onSound: (sound: Sound) => void;
  onEnded: () => void;
  onProblem: (error: unknown) => void;
};

export function openSoundSource({ readable, sound, clock, nowUs, ...on }: Options): SoundSource {
  const reader = readable.getReader();
  const shape = openShaping(sound);
  let peak = 0;
  let hearing: { ears: ReturnType<typeof openEars>; hear: (peakDb: number) => Heard } | null = null;
  let released = false;

  const take = (chunk: AudioData) => {
    const monotonicUs = clock.toMonotonic(chunk.timestamp, nowUs(), chunk.duration);
    const given = planesOf(chunk, sound.channels);
    // A closed chunk knows nothing any more.
    const { sampleRate: deviceRate } = chunk;
    chunk.close();
    const { planes, sampleRate, offsetS } = shape.shaped(given, deviceRate);
    for (const plane of planes) peak = Math.max(peak, peakOf(plane));
    if (!hearing) {
      const ears = openEars(sampleRate, planes.length);
      hearing = { ears, hear: openHearing(ears) };
    }
    hearing.ears.push(planes);
    on.onSound({ planes, sampleRate, monotonicUs: monotonicUs + offsetS * 1e6 });
  };

  const read = async () => {
    // What comes meanwhile waits in the stream.
    await shape.prepared();
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      // The page ends the stream of a track that was let go.
      if (released) value.close();
      else take(value);
    }
    // Only the source's own end is news.
    if (!released) on.onEnded();
  };
  read().catch(on.onProblem);

  return {
    level: () => {
      const db = peak === 0 ? SILENCE_DB : decibels(peak);
      peak = 0;
      return db;
    },
    heard: (peakDb) => hearing?.hear(peakDb),
    release: () => {
      released = true;
    },
  };
}

/** Treats where that is asked for and brings to the rate that the rig asks for; what comes later than it was given is told. */
function openShaping({ treatment, sampleRate: asked }: SoundSettings) {
  type Shaped = { planes: Float32Array[]; sampleRate: number; offsetS: number };
  let denoiser: Awaited<ReturnType<typeof fetchDenoiser>> | null = null;
  let treat: ReturnType<typeof openLiveTreatment> | null = null;
  let resampler: SoundResampler | null = null;
  const treated = (planes: Float32Array[], sampleRate: number): Shaped => {
    if (!treatment) return { planes, sampleRate, offsetS: 0 };
    treat ??= openLiveTreatment(treatment, sampleRate, () => {
      if (!denoiser) throw new Error('Nothing is there to take noise out.');
      return denoiser();
    });
    const { samples, offsetS } = treat(planes[0] ?? new Float32Array(0));
    return { planes: [samples], sampleRate: TREATMENT_RATE, offsetS };
  };
  return {
    prepared: async () => {
      if (treatment?.denoise) denoiser = await fetchDenoiser();
    },
    shaped: (given: Float32Array[], deviceRate: number): Shaped => {
      const made = treated(given, deviceRate);
      if (asked === null || asked === made.sampleRate) return made;
      resampler ??= openSoundResampler(made.sampleRate, asked, made.planes.length);
      const { planes, offsetS } = resampler.push(made.planes);
      return { planes, sampleRate: asked, offsetS: made.offsetS + offsetS };
    },
  };
}

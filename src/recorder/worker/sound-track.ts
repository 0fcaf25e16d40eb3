import { type Heard, openEars, openHearing } from '@/core/audio/sound-heard';
import { openSoundResampler, type SoundResampler } from '@/core/audio/sound-resample';
import { openLiveTreatment, TREATMENT_RATE } from '@/core/audio/treatment-line';
import { newBell } from '@/core/base/bell';
import { decibels, peakOf, SILENCE_DB } from '@/core/base/decibels';
import { newSegmentId } from '@/core/base/ids';
import { placeChunk, type SoundLine, silenceUntil, startSoundLine } from '@/core/recording/sound-line';
import { fetchDenoiser } from '@/sound/denoiser';
import type { SoundSettings } from '../messages';
import { planesOf } from './planes';
import { elapsed, isPaused, type Recording } from './recording';
import type { Segment } from './segment';
import { openSegmentChain } from './segment-chain';
import { BITS, type Encode, opusEncoder, pcmEncoder } from './sound-encoder';
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
  onEnded: () => void;
  onProblem: (error: unknown) => void;
};

/** Samples a channel in a packet: 20 ms, the frame that Opus is best at. */
const packetFrames = (sampleRate: number) => Math.round(sampleRate / 50);
/** A source that gives nothing for this long leaves silence in its track, so that the track is fast enough with the take. A machine that stood still for a moment gives later what it has. */
const SILENT_AFTER_US = 1_500_000;
/** A track that begins later than this, or again, gets a segment of its own start instead of leading silence. */
const LATE_US = 2_000_000;
const LAST_CHUNKS_MS = 250;
/** How long muting takes. */
const RAMP_S = 0.01;

/** One sound track. Sound is never dropped: gaps are filled with silence, so that the samples always count the take's time. */
export function openSoundTrack(options: Options): SoundTrack {
  const { role, clock, nowUs } = options;
  const reader = options.readable.getReader();
  let recording: Recording | null = null;
  let line: SoundLine | null = null;
  /** Rings with every chunk that is written. */
  const more = newBell();
  /** Take time at which the line begins: 0, or where a track that came late begins. */
  let originUs = 0;
  let endUs = Number.POSITIVE_INFINITY;
  let channels = 1;
  let segment: Segment | null = null;
  let encode: Encode | null = null;
  let muted = false;
  /** What the voice is multiplied by now. */
  let gain = 1;
  let resampler: SoundResampler | null = null;
  let treat: ReturnType<typeof openLiveTreatment> | null = null;
  let peak = 0;
  let stopped = false;
  let released = false;
  let wasPaused = false;
  let bytes = 0;
  let ears: ReturnType<typeof openEars> | null = null;
  let hear: ((peakDb: number) => Heard) | null = null;
  const onChunk = (chunk: AudioData) => {
    const now = nowUs();
    const monotonicUs = clock.toMonotonic(chunk.timestamp, now, chunk.duration);
    const given = planesOf(chunk, options.sound.channels);
    // A closed chunk knows nothing any more.
    const { sampleRate: deviceRate } = chunk;
    chunk.close();
    const { planes, sampleRate, offsetUs } = atRate(given, deviceRate);
    for (const plane of planes) peak = Math.max(peak, peakOf(plane));
    listen(planes, sampleRate);
    if (!recording || stopped) return;
    const t = takeTimeOfChunk(recording, monotonicUs + offsetUs);
    if (t !== null && t >= endUs) return;
    if (t === null) {
      wasPaused ||= isPaused(recording);
      return;
    }
    const frames = planes[0]?.length ?? 0;
    if (frames === 0) return;
    if (!line) {
      line = startSoundLine(sampleRate);
      originUs = t > LATE_US || recording.hasSegments(role) ? Math.max(0, t) : 0;
      channels = planes.length;
    }
    if (wasPaused) line = { ...line, realign: true };
    wasPaused = false;
    const placed = placeChunk(line, t - originUs, frames);
    line = placed.line;
    const parts = gained(planes, sampleRate).map((plane) => plane.subarray(placed.leaveOut));
    write(parts, placed.silence);
    more.ring();
  };

  /** Treated where that is asked for, and at the rate that the rig asks for; what comes later than it was given is told. */
  const atRate = (given: Float32Array[], deviceRate: number) => {
    let made = { planes: given, sampleRate: deviceRate, offsetS: 0 };
    if (treat) {
      const { samples, offsetS } = treat(given[0] ?? new Float32Array(0));
      made = { planes: [samples], sampleRate: TREATMENT_RATE, offsetS };
    }
    const { sampleRate } = options.sound;
    if (sampleRate !== null && sampleRate !== made.sampleRate) {
      resampler ??= openSoundResampler(made.sampleRate, sampleRate, made.planes.length);
      const { planes, offsetS } = resampler.push(made.planes);
      made = { planes, sampleRate, offsetS: made.offsetS + offsetS };
    }
    return { ...made, offsetUs: made.offsetS * 1e6 };
  };

  /** Muting and unmuting go over a hundredth of a second: an edge would be heard as a click. */
  const gained = (planes: Float32Array[], sampleRate: number): Float32Array[] => {
    const target = muted ? 0 : 1;
    if (gain === target) return target === 1 ? planes : planes.map((plane) => new Float32Array(plane.length));
    const step = (target > gain ? 1 : -1) / (sampleRate * RAMP_S);
    let after = gain;
    const made = planes.map((plane) => {
      after = gain;
      return plane.map((sample) => {
        after = Math.min(1, Math.max(0, after + step));
        return sample * after;
      });
    });
    gain = after;
    return made;
  };

  /** Meters hear what is recorded, whether or not it is being recorded now. */
  const listen = (planes: Float32Array[], sampleRate: number) => {
    if (!ears) {
      ears = openEars(sampleRate, planes.length);
      hear = openHearing(ears);
    }
    ears.push(planes);
  };

  /** Sound of before the first instant has a negative time: its part after it is kept. */
  const takeTimeOfChunk = (take: Recording, monotonicUs: number): number | null => {
    if (isPaused(take) && monotonicUs >= (take.clock.pausedSinceUs ?? 0)) return null;
    if (monotonicUs < take.clock.baseUs) return monotonicUs - take.clock.baseUs;
    let away = 0;
    for (const { fromUs, toUs } of take.clock.pauses) {
      if (monotonicUs >= fromUs && monotonicUs < toUs) return null;
      if (monotonicUs >= toUs) away += toUs - fromUs;
    }
    return monotonicUs - take.clock.baseUs - away;
  };

  const write = (parts: Float32Array[], silence: number) => {
    const take = recording;
    const rate = line?.sampleRate;
    if (!take || !rate) return;
    if (!encode) {
      encode = openEncoder(take, rate);
    }
    const step = packetFrames(rate);
    // A long silence goes in pieces: nobody needs it in memory whole.
    for (let left = silence; left > 0; left -= step * 50) {
      const size = Math.min(left, step * 50);
      encode.put(Array.from({ length: channels }, () => new Float32Array(size)));
    }
    const own = parts.slice(0, channels);
    if ((own[0]?.length ?? 0) > 0) encode.put(own);
  };

  const openEncoder = (take: Recording, sampleRate: number): Encode => {
    const { kbps } = options.sound;
    const bits = BITS[options.sound.codec];
    const { offsetUs, how } = clock.offset();
    const index = take.nextIndex(role);
    const open = (encoderDelayUs: number): Segment => {
      segment = openSegmentChain(
        {
          id: newSegmentId(),
          track: role,
          index,
          startUs: Math.round(originUs),
          configuration: {
            type: 'audio',
            codec: bits ? `pcm-s${bits}` : 'opus',
            sampleRate,
            channels,
            bitrateKbps: bits ? Math.round((sampleRate * bits * channels) / 1000) : kbps,
          },
          encoderDelayUs,
          offsetUs,
          offsetHow: how,
          continues: false,
        },
        take.files,
        () => take.nextIndex(role),
      );
      return segment;
    };
    return bits
      ? pcmEncoder(open(0), originUs, sampleRate, channels, bits)
      : opusEncoder(open, originUs, sampleRate, channels, kbps, options.onProblem);
  };

  const read = async () => {
    const { treatment } = options.sound;
    // What comes meanwhile waits in the stream.
    const denoiser = treatment?.denoise ? await fetchDenoiser() : null;
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      // The page ends the stream of a track that was let go.
      if (released) {
        value.close();
        continue;
      }
      if (treatment)
        treat ??= openLiveTreatment(treatment, value.sampleRate, () => {
          if (!denoiser) throw new Error('Nothing is there to take noise out.');
          return denoiser();
        });
      onChunk(value);
    }
    // Only the source's own end is news.
    if (!released) options.onEnded();
  };
  read().catch(options.onProblem);

  const keepUp = setInterval(() => {
    if (!recording || stopped || !line || isPaused(recording)) return;
    const behind = silenceUntil(line, elapsed(recording, nowUs()) - SILENT_AFTER_US - originUs);
    if (behind < line.sampleRate / 2) return;
    line = { ...line, placed: line.placed + behind, realign: true };
    write([], behind);
  }, 250);

  return {
    role,
    clock,
    start: (next) => {
      recording = next;
      endUs = next.untilUs;
    },
    mute: (next) => {
      muted = next;
      // Before the first instant nobody hears an edge.
      if (!recording) gain = next ? 0 : 1;
    },
    stop: async (atUs) => {
      if (stopped) return;
      endUs = Math.min(endUs, atUs);
      // The last words are still on their way from the device.
      const limit = AbortSignal.timeout(LAST_CHUNKS_MS);
      limit.addEventListener('abort', more.ring);
      while (line && !limit.aborted && silenceUntil(line, endUs - originUs) > 0) await more.next();
      stopped = true;
      clearInterval(keepUp);
      if (line) {
        const missing = silenceUntil(line, endUs - originUs);
        if (missing > 0) write([], missing);
      }
      await encode?.finish();
      await segment?.close();
      bytes = segment?.bytes() ?? 0;
      segment = null;
    },
    release: () => {
      stopped = true;
      released = true;
      clearInterval(keepUp);
    },
    level: () => {
      const db = peak === 0 ? SILENCE_DB : decibels(peak);
      peak = 0;
      return muted ? SILENCE_DB : db;
    },
    heard: (peakDb) => hear?.(peakDb),
    bytes: () => bytes + (segment?.bytes() ?? 0),
    unwritten: () => segment?.unwritten() ?? 0,
  };
}

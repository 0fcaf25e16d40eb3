import { decibels, peakOf, SILENCE_DB } from '@/core/decibels';
import { newSegmentId } from '@/core/ids';
import { type Loudness, openLoudness } from '@/core/loudness';
import type { Rig } from '@/core/rig';
import { type Heard, openClipping, openHearing } from '@/core/sound-heard';
import { placeChunk, type SoundLine, silenceUntil, startSoundLine } from '@/core/sound-line';
import { openSoundResampler, type SoundResampler } from '@/core/sound-resample';
import { elapsed, isPaused, type Recording } from './recording';
import { openSegment, type Segment } from './segment';
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
  /** What is heard beside that level; call it after each. Undefined until something came. */
  readonly heard: (peakDb: number) => Heard | undefined;
  readonly bytes: () => number;
  readonly unwritten: () => number;
};

type Options = {
  role: 'voice' | 'app-sound';
  readable: ReadableStream<AudioData>;
  sound: Rig['sound'];
  clock: SourceClock;
  nowUs: () => number;
  onEnded: () => void;
  onProblem: (error: unknown) => void;
};

/** Samples a channel in a packet: 20 ms, the frame that Opus is best at. */
const packetFrames = (sampleRate: number) => Math.round(sampleRate / 50);
/** A source that gives nothing for this long leaves silence in its track, so that the track keeps up with the take. */
const SILENT_AFTER_US = 500_000;
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
  let peak = 0;
  let stopped = false;
  let released = false;
  let wasPaused = false;
  let bytes = 0;
  let meter: {
    loudness: Loudness;
    clipping: ReturnType<typeof openClipping>;
    hear: ReturnType<typeof openHearing>;
  } | null = null;
  const onChunk = (chunk: AudioData) => {
    const now = nowUs();
    const monotonicUs = clock.toMonotonic(chunk.timestamp, now, chunk.duration);
    const given = planesOf(chunk, role === 'voice' ? 1 : 2);
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
  };

  /** At the rate that the rig asks for; what comes later than it was given is told. */
  const atRate = (given: Float32Array[], deviceRate: number) => {
    const { sampleRate } = options.sound;
    if (sampleRate === null || sampleRate === deviceRate)
      return { planes: given, sampleRate: deviceRate, offsetUs: 0 };
    resampler ??= openSoundResampler(deviceRate, sampleRate, given.length);
    const { planes, offsetS } = resampler.push(given);
    return { planes, sampleRate, offsetUs: offsetS * 1e6 };
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
    if (!meter) {
      const clipping = openClipping();
      const loudness = openLoudness(sampleRate, planes.length);
      meter = { loudness, clipping, hear: openHearing(loudness, clipping.runs) };
    }
    meter.loudness.push(planes);
    for (const plane of planes) meter.clipping.push(plane);
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
    const kbps = role === 'voice' ? options.sound.voiceKbps : options.sound.appKbps;
    const bits = BITS[options.sound.codec];
    const { offsetUs, how } = clock.offset();
    const index = take.nextIndex(role);
    const open = (encoderDelayUs: number): Segment => {
      segment = openSegment(
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
        },
        take.files,
      );
      return segment;
    };
    return bits
      ? pcmEncoder(open(0), originUs, sampleRate, channels, bits)
      : opusEncoder(open, originUs, sampleRate, channels, kbps, options.onProblem);
  };

  const read = async () => {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      if (released) {
        value.close();
        await reader.cancel();
        return;
      }
      onChunk(value);
    }
    // Letting go of the reader ends the stream too; only the source's own end is news.
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
      for (
        let waited = 0;
        line && waited < LAST_CHUNKS_MS && silenceUntil(line, endUs - originUs) > 0;
        waited += 10
      )
        await new Promise((done) => setTimeout(done, 10));
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
    heard: (peakDb) => meter?.hear(peakDb),
    bytes: () => bytes + (segment?.bytes() ?? 0),
    unwritten: () => segment?.unwritten() ?? 0,
  };
}

/** The planes as floats; a voice is one channel, whatever the device gives. */
function planesOf(chunk: AudioData, most: number): Float32Array[] {
  const planes = Array.from({ length: chunk.numberOfChannels }, (_, planeIndex) => {
    const plane = new Float32Array(chunk.numberOfFrames);
    chunk.copyTo(plane, { planeIndex, format: 'f32-planar' });
    return plane;
  });
  if (planes.length <= most) return planes;
  if (most === 2) return planes.slice(0, 2);
  const mixed = new Float32Array(chunk.numberOfFrames);
  for (const plane of planes)
    for (let i = 0; i < mixed.length; i++) mixed[i] = (mixed[i] ?? 0) + (plane[i] ?? 0) / planes.length;
  return [mixed];
}

type Encode = { put: (planes: Float32Array[]) => void; finish: () => Promise<void> };

/**
 * Sound that an Opus encoder puts before the first sample, from its own header: "pre-skip (16 bits, unsigned, little endian):
 * the number of samples (at 48 kHz) to discard from the decoder output" (RFC 7845 section 5.1, bytes 10 and 11).
 */
function preSkipUs(meta: EncodedAudioChunkMetadata | undefined): number {
  const header = meta?.decoderConfig?.description;
  if (!header || header.byteLength < 19) return 0;
  const view = ArrayBuffer.isView(header)
    ? new DataView(header.buffer, header.byteOffset, header.byteLength)
    : new DataView(header);
  return Math.round((view.getUint16(10, true) * 1e6) / 48_000);
}

/** @param open begins the segment; called with the first packet, which tells the encoder's delay */
function opusEncoder(
  open: (encoderDelayUs: number) => Segment,
  originUs: number,
  sampleRate: number,
  channels: number,
  kbps: number,
  onProblem: (error: unknown) => void,
): Encode {
  let placed = 0;
  let segment: Segment | null = null;
  const encoder = new AudioEncoder({
    output: (chunk, meta) => {
      segment ??= open(preSkipUs(meta));
      const data = new Uint8Array(chunk.byteLength);
      chunk.copyTo(data);
      segment.add({ data, key: true, tUs: chunk.timestamp, durationUs: chunk.duration ?? 20_000 }, meta);
    },
    error: onProblem,
  });
  encoder.configure({ codec: 'opus', sampleRate, numberOfChannels: channels, bitrate: kbps * 1000 });
  return {
    put: (planes) => {
      const frames = planes[0]?.length ?? 0;
      const data = new Float32Array(frames * channels);
      planes.forEach((plane, i) => {
        data.set(plane, i * frames);
      });
      const timestamp = Math.round(originUs + (placed * 1e6) / sampleRate);
      placed += frames;
      const chunk = new AudioData({
        format: 'f32-planar',
        sampleRate,
        numberOfChannels: channels,
        numberOfFrames: frames,
        timestamp,
        data,
      });
      encoder.encode(chunk);
      chunk.close();
    },
    finish: async () => {
      await encoder.flush();
      encoder.close();
    },
  };
}

/** Bits a sample of what is kept as it is; null where it is encoded. */
const BITS = { opus: null, pcm: 16, 'pcm-24': 24 } as const;

function pcmEncoder(
  segment: Segment,
  originUs: number,
  sampleRate: number,
  channels: number,
  bits: 16 | 24,
): Encode {
  let placed = 0;
  const meta: EncodedAudioChunkMetadata = {
    decoderConfig: { codec: `pcm-s${bits}`, sampleRate, numberOfChannels: channels },
  };
  return {
    put: (planes) => {
      const frames = planes[0]?.length ?? 0;
      const bytes = bits / 8;
      const data = new Uint8Array(frames * channels * bytes);
      const most = 2 ** (bits - 1) - 1;
      for (let i = 0; i < frames; i++)
        for (let c = 0; c < channels; c++) {
          const value = Math.round(Math.max(-1, Math.min(1, planes[c]?.[i] ?? 0)) * most);
          // Little endian, two's complement.
          for (let byte = 0; byte < bytes; byte++)
            data[(i * channels + c) * bytes + byte] = (value >> (8 * byte)) & 255;
        }
      const tUs = Math.round(originUs + (placed * 1e6) / sampleRate);
      placed += frames;
      segment.add(
        {
          data,
          key: true,
          tUs,
          durationUs: Math.round((frames * 1e6) / sampleRate),
        },
        meta,
      );
    },
    finish: async () => undefined,
  };
}

/** Hears a microphone for some seconds, and keeps it as a take would: encoded, and decoded again. */
import { openEars, PAUSED } from '@/core/audio/sound-heard';
import { openSoundResampler } from '@/core/audio/sound-resample';
import { openLiveTreatment, TREATMENT_RATE } from '@/core/audio/treatment-line';
import { fetchDenoiser } from '@/sound/denoiser';
import type { SoundSettings } from '../messages';
import { planesOf } from '../worker/planes';
import { BITS } from '../worker/sound-encoder';
import { type FromSoundTest, type HeardSound, ToSoundTest } from './messages';

type Sound = { samples: Float32Array<ArrayBuffer>; sampleRate: number };

const tell = (message: FromSoundTest, transfer: Transferable[] = []) => postMessage(message, { transfer });
const known = (db: number) => (Number.isFinite(db) ? Math.round(db * 10) / 10 : null);

async function listen(readable: ReadableStream<AudioData>, seconds: number): Promise<Sound> {
  const reader = readable.getReader();
  let samples = new Float32Array(0);
  let [sampleRate, at] = [48_000, 0];
  for (;;) {
    const { value, done } = await reader.read();
    if (done) break;
    if (at === 0) {
      ({ sampleRate } = value);
      samples = new Float32Array(Math.round(sampleRate * seconds));
    }
    const [plane = new Float32Array(0)] = planesOf(value, 1);
    value.close();
    samples.set(plane.subarray(0, samples.length - at), at);
    at += plane.length;
    if (at >= samples.length) break;
  }
  await reader.cancel();
  return { samples: samples.slice(0, at), sampleRate };
}

function measure({ samples, sampleRate }: Sound): HeardSound['measured'] {
  const ears = openEars(sampleRate, 1);
  ears.push([samples]);
  const { loudness } = ears;
  return {
    lufs: known(loudness.integrated()),
    peakDbtp: known(loudness.truePeak()),
    roomLufs: known(loudness.quiet(PAUSED)),
    clipped: ears.clipped(),
    hum: ears.hum(),
  };
}

async function keep(raw: Sound, settings: SoundSettings): Promise<HeardSound['kept']> {
  let { samples, sampleRate } = raw;
  const { treatment } = settings;
  if (treatment) {
    const denoiser = treatment.denoise ? await fetchDenoiser() : null;
    const treat = openLiveTreatment(treatment, sampleRate, () => {
      if (!denoiser) throw new Error('Noise reduction is off.');
      return denoiser();
    });
    samples = new Float32Array(treat(samples).samples);
    sampleRate = TREATMENT_RATE;
  }
  if (settings.sampleRate !== null && settings.sampleRate !== sampleRate) {
    const [plane = samples] = openSoundResampler(sampleRate, settings.sampleRate, 1).push([samples]).planes;
    samples = new Float32Array(plane);
    ({ sampleRate } = settings as { sampleRate: number });
  }
  const bits = BITS[settings.codec];
  if (bits) {
    const most = 2 ** (bits - 1) - 1;
    const rounded = samples.map((x) => Math.round(Math.max(-1, Math.min(1, x)) * most) / most);
    return { samples: rounded, sampleRate, bytes: (samples.length * bits * settings.channels) / 8 };
  }
  return await throughOpus({ samples, sampleRate }, settings.kbps);
}

async function throughOpus({ samples, sampleRate }: Sound, kbps: number): Promise<HeardSound['kept']> {
  const made: Float32Array[] = [];
  let [bytes, keptRate] = [0, sampleRate];
  const decoder = new AudioDecoder({
    output: (chunk) => {
      keptRate = chunk.sampleRate;
      made.push(...planesOf(chunk, 1));
      chunk.close();
    },
    error: failed,
  });
  const encoder = new AudioEncoder({
    output: (chunk, meta) => {
      if (meta?.decoderConfig) decoder.configure(meta.decoderConfig);
      bytes += chunk.byteLength;
      decoder.decode(chunk);
    },
    error: failed,
  });
  encoder.configure({ codec: 'opus', sampleRate, numberOfChannels: 1, bitrate: kbps * 1000 });
  const all = new AudioData({
    format: 'f32-planar',
    sampleRate,
    numberOfChannels: 1,
    numberOfFrames: samples.length,
    timestamp: 0,
    data: samples,
  });
  encoder.encode(all);
  all.close();
  await encoder.flush();
  await decoder.flush();
  encoder.close();
  decoder.close();
  const joined = new Float32Array(made.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of made) {
    joined.set(part, at);
    at += part.length;
  }
  return { samples: joined, sampleRate: keptRate, bytes };
}

const failed = (error: unknown) =>
  tell({ type: 'failed', message: error instanceof Error ? error.message : String(error) });

self.onmessage = async ({ data }: MessageEvent<unknown>) => {
  try {
    const { readable, seconds, settings } = ToSoundTest.parse(data);
    const raw = await listen(readable, seconds);
    const kept = settings && (await keep(raw, settings));
    const measured = measure(raw);
    tell({ type: 'heard', measured, raw, kept }, [
      raw.samples.buffer,
      ...(kept && kept.samples.buffer !== raw.samples.buffer ? [kept.samples.buffer] : []),
    ]);
  } catch (error) {
    failed(error);
  }
};

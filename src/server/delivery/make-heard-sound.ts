import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { isTreated } from '@/core/audio/treatment';
import { type Denoiser, openTreatment, TREATMENT_RATE } from '@/core/audio/treatment-line';
import type { TakeId } from '@/core/base/ids';
import { seconds } from '@/core/commands/seconds';
import { heardInput, type SoundTrackKind, type SoundWork } from '@/core/deliver/heard-sound';
import type { PlainInput } from '@/core/deliver/plain-input';
import { loadDenoiser } from '@/sound/denoiser';
import { decode, encoder } from '../media/ffmpeg';
import { heardPath, makeFile } from '../media/media-folder';

const BYTES = Float32Array.BYTES_PER_ELEMENT;

let denoisers: Promise<() => Denoiser> | null = null;
function denoiser(): Promise<() => Denoiser> {
  denoisers ??= (async () => {
    const path = createRequire(import.meta.url).resolve('@sapphi-red/web-noise-suppressor/rnnoise_simd.wasm');
    return loadDenoiser(new Uint8Array(await readFile(path)));
  })();
  return denoisers;
}

/**
 * Makes a track's sound as it is heard: all its segments in one file from the take's first instant to its last, treated and moved in
 * time. FLAC, so that nothing is lost once more.
 * @param segments of this track
 * @returns the file in the segments' place
 */
export async function makeHeardSound(
  takeId: TakeId,
  track: SoundTrackKind,
  segments: readonly PlainInput[],
  { treatment, delayMs }: SoundWork,
  durationUs: number,
  signal: AbortSignal,
): Promise<PlainInput> {
  const input = heardInput(track, heardPath(takeId, track), segments, durationUs, treatment);
  const channels = input.configuration.type === 'audio' ? input.configuration.channels : 1;
  const files = segments.flatMap(({ encoderDelayUs, path }) => [
    ...['-itsoffset', seconds(delayMs * 1000 - encoderDelayUs), '-i', path],
  ]);
  const layout = channels === 1 ? 'mono' : 'stereo';
  const samples = Math.round((durationUs * TREATMENT_RATE) / 1e6);
  const chains = segments.map(
    (_, i) =>
      `[${i}:a]aresample=${TREATMENT_RATE}:async=1:first_pts=0,aformat=sample_fmts=flt:channel_layouts=${layout}[s${i}]`,
  );
  const all = segments.map((_, i) => `[s${i}]`).join('');
  chains.push(
    `${all}amix=inputs=${segments.length}:normalize=0:duration=longest,apad=whole_len=${samples},atrim=end_sample=${samples}[all]`,
  );
  const raw = ['-f', 'f32le', '-ar', String(TREATMENT_RATE), '-ac', String(channels)];
  const line = isTreated(treatment)
    ? openTreatment(treatment, treatment.denoise ? await denoiser() : neverAsked)
    : null;
  await makeFile(input.path, async (temporary) => {
    const out = encoder([...raw, '-i', 'pipe:0', '-c:a', 'flac', '-sample_fmt', 's16', temporary], signal);
    let late = (line?.delay ?? 0) * BYTES;
    const put = async (data: Buffer) => {
      const made = line ? bytesOf(line.push(samplesOf(data))) : data;
      const kept = made.subarray(Math.min(late, made.length));
      late -= made.length - kept.length;
      await out.put(kept);
    };
    await decode(
      [
        '-copyts',
        ...files,
        '-filter_complex',
        chains.join(';'),
        '-map',
        '[all]',
        '-c:a',
        'pcm_f32le',
        ...raw,
      ],
      wholeSamples(channels * BYTES, put),
      signal,
    );
    if (line) await put(Buffer.alloc(line.delay * BYTES));
    await out.end();
  });
  return input;
}

const neverAsked = (): never => {
  throw new Error('Noise reduction is off.');
};

/** Pipes break samples in the middle: what is left of one waits for its rest. */
function wholeSamples(bytes: number, put: (data: Buffer) => Promise<void>) {
  let rest = Buffer.alloc(0);
  return async (data: Buffer): Promise<void> => {
    const all = rest.length > 0 ? Buffer.concat([rest, data]) : data;
    const whole = all.length - (all.length % bytes);
    rest = Buffer.from(all.subarray(whole));
    if (whole > 0) await put(all.subarray(0, whole));
  };
}

const samplesOf = (data: Buffer): Float32Array => {
  // Samples must begin at a multiple of four, which a pipe's buffers do not.
  const copy = new Uint8Array(data);
  return new Float32Array(copy.buffer, 0, copy.length / BYTES);
};
const bytesOf = (samples: Float32Array): Buffer =>
  Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength);

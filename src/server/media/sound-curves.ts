import { lufs, openEnergy, STEPS_A_SECOND } from '@/core/audio/loudness';
import { decode } from './ffmpeg';

const RATE = 48_000;
const PEAKS_PER_SECOND = 50;
/** In the place of −∞. */
const SILENT = -1000;

/** One recorded sound of a take; a track that came back later has several. */
export type RecordedSound = { track: string; startUs: number; path: string; channels: number };

/** What a waveform is drawn of, and what loudness is told from, a list for each sound track from the take's start on. */
export type SoundCurves = {
  perSecond: number;
  /** The largest sample of each 20 ms, 0…255. */
  tracks: Record<string, number[]>;
  /** K-weighted loudness of each tenth of a second, tenths of LUFS (`core/audio/loudness.ts`). */
  loudness: Record<string, number[]>;
};

/** @throws when a sound cannot be decoded */
export async function soundCurves(
  sounds: readonly RecordedSound[],
  signal: AbortSignal,
): Promise<SoundCurves> {
  const curves: SoundCurves = { perSecond: PEAKS_PER_SECOND, tracks: {}, loudness: {} };
  for (const { track, startUs, path, channels } of sounds) {
    const { peaks, energy } = await curvesOf(path, channels === 2 ? 2 : 1, signal);
    curves.tracks[track] = placed(curves.tracks[track] ?? [], peaks, startUs, PEAKS_PER_SECOND, 0);
    const loudness = energy.map((meanSquare) => Math.max(SILENT, Math.round(10 * lufs(meanSquare))));
    curves.loudness[track] = placed(curves.loudness[track] ?? [], loudness, startUs, STEPS_A_SECOND, SILENT);
  }
  return curves;
}

/** Values after those that are there, from a time on; silence between them. */
function placed(
  before: readonly number[],
  values: readonly number[],
  startUs: number,
  perSecond: number,
  silence: number,
): number[] {
  const between = Math.max(0, Math.round((startUs / 1e6) * perSecond) - before.length);
  return [...before, ...Array.from({ length: between }, () => silence), ...values];
}

async function curvesOf(path: string, channels: 1 | 2, signal: AbortSignal) {
  const energy = openEnergy(RATE, channels);
  const peaks: number[] = [];
  const step = RATE / PEAKS_PER_SECOND;
  let [peak, count] = [0, 0];
  let rest = Buffer.alloc(0);
  const onData = (data: Buffer) => {
    const all = rest.length > 0 ? Buffer.concat([rest, data]) : data;
    const frames = Math.floor(all.length / (4 * channels));
    const planes = Array.from({ length: channels }, () => new Float32Array(frames));
    for (let i = 0; i < frames; i++) {
      for (let c = 0; c < channels; c++) {
        const sample = all.readFloatLE(4 * (i * channels + c));
        (planes[c] as Float32Array)[i] = sample;
        peak = Math.max(peak, Math.abs(sample));
      }
      if (++count < step) continue;
      peaks.push(Math.min(255, Math.round(peak * 255)));
      [peak, count] = [0, 0];
    }
    energy.push(planes);
    rest = Buffer.from(all.subarray(frames * 4 * channels));
  };
  await decode(['-i', path, '-f', 'f32le', '-ac', String(channels), '-ar', String(RATE)], onData, signal);
  return { peaks, energy: energy.steps };
}

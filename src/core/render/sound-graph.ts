import type { Gains } from '../cut/cut';
import { type FrameRate, frameTimeUs } from '../rational';
import type { SoundInput } from './take-sources';
import type { PiecedFrames } from './timeline';

/** All sound is mixed at this rate. */
export const MIX_RATE = 48_000;
/** Where sound is cut it fades over this, so that nothing clicks. */
const SEAM_S = 0.005;
const LEAD_US = 500_000;
const seconds = (us: number) => (us / 1e6).toFixed(6);

const sampleOf = (frame: number, rate: FrameRate): number =>
  Math.round((frameTimeUs(frame, rate) * MIX_RATE) / 1e6);

/** What ffmpeg has to do for the sound of one piece. */
export type SoundPiece = {
  /** Inputs, filters and the stream that comes out; null when nothing was recorded there and all of it is silence. */
  args: string[] | null;
  /** Exactly so many samples a channel. */
  samples: number;
};

/**
 * The sound of one piece: its tracks mixed by the step's gains, cut to the sample, as long as its frames.
 * @param tracks which of them are heard
 * @param fadeOut whether something else follows
 */
export function soundPiece(
  { piece, originUs, firstFrame, frames, step, continues }: PiecedFrames,
  sounds: readonly SoundInput[],
  tracks: readonly SoundInput['track'][],
  gains: Gains | null,
  channels: 1 | 2,
  rate: FrameRate,
  fadeOut: boolean,
): SoundPiece {
  const samples = sampleOf(firstFrame + frames, rate) - sampleOf(firstFrame, rate);
  const own = gains ?? step.gains;
  const heard = sounds.filter(
    ({ track, startUs, endUs }) =>
      tracks.includes(track) && startUs < piece.outUs + LEAD_US && endUs > piece.inUs - LEAD_US,
  );
  if (heard.length === 0) return { args: null, samples };
  const files = heard.flatMap(({ path, startUs, encoderDelayUs }) => {
    const fromUs = originUs - LEAD_US;
    return [
      ...(fromUs > startUs ? ['-noaccurate_seek', '-ss', seconds(fromUs)] : []),
      ...(encoderDelayUs > 0 ? ['-itsoffset', seconds(-encoderDelayUs)] : []),
      '-i',
      path,
    ];
  });
  const lengthS = samples / MIX_RATE;
  const seams = [
    ...(continues ? [] : [`afade=t=in:d=${SEAM_S}`]),
    ...(fadeOut ? [`afade=t=out:st=${Math.max(0, lengthS - SEAM_S).toFixed(6)}:d=${SEAM_S}`] : []),
  ];
  const chains = heard.map(({ track, channels: given }, i) => {
    const gainDb = track === 'voice' ? own.voiceDb : own.appSoundDb;
    const copied = channels === 2 && given === 1 ? 'pan=stereo|c0=c0|c1=c0,' : '';
    const layout = `aformat=sample_fmts=flt:channel_layouts=${channels === 1 ? 'mono' : 'stereo'}`;
    const placed = `asetpts=PTS-${seconds(originUs)}/TB,atrim=start=0,aresample=${MIX_RATE}:async=1:first_pts=0`;
    return `[${i}:a]${placed},${copied}${layout},apad=whole_len=${samples},atrim=end_sample=${samples},volume=${gainDb}dB[s${i}]`;
  });
  const mix = `${heard.map((_, i) => `[s${i}]`).join('')}amix=inputs=${heard.length}:normalize=0:duration=longest`;
  chains.push(`${[mix, ...seams, `atrim=end_sample=${samples}`].join(',')}[mix]`);
  return {
    args: ['-copyts', ...files, '-filter_complex', chains.join(';'), ...['-map', '[mix]']],
    samples,
  };
}

/** How a mix lies between its pieces and the encoder: raw 32-bit floats. */
export const rawMix = (channels: 1 | 2): string[] => [
  ...['-f', 'f32le', '-ar', String(MIX_RATE), '-ac', String(channels)],
];

/** The loudness of a mix, as ITU-R BS.1770-4 measures it. */
export type Loudness = { lufs: number; truePeakDbtp: number };

/** Levelling of a mix before it is encoded. */
export type Levelling = { gainDb: number; limitDbfs: number | null };

/** Below this there is nothing but noise, which must not be made loud. */
const SILENT_LUFS = -55;
/** Encoding raises peaks a little; the limiter leaves room for that. */
const ENCODING_DB = 1;

/**
 * The gain that brings a mix to a loudness, with a limiter where its peaks would then be too high. A limiter makes it a little
 * quieter again: measure what came out and ask once more, with the levelling of before.
 */
export function levelling(
  target: Loudness,
  measured: Pick<Loudness, 'lufs'> & { truePeakDbtp: number | null },
  before: Levelling = { gainDb: 0, limitDbfs: null },
): Levelling {
  if (measured.lufs < SILENT_LUFS) return { gainDb: 0, limitDbfs: null };
  const gainDb = before.gainDb + target.lufs - measured.lufs;
  const ceiling = target.truePeakDbtp - ENCODING_DB;
  const limited =
    before.limitDbfs !== null ||
    (measured.truePeakDbtp !== null && measured.truePeakDbtp + gainDb - before.gainDb > ceiling);
  return { gainDb, limitDbfs: limited ? ceiling : null };
}

/** The filter that carries a levelling out. Peaks are looked for at four times the rate, where true peaks show. */
export function levellingFilter(level: Levelling): string {
  if (level.limitDbfs === null) return levellingForecast(level);
  const [gain, limiter] = levellingForecast(level).split(',');
  return `${gain},aresample=${4 * MIX_RATE},${limiter},aresample=${MIX_RATE}`;
}

/** The same at the mix's own rate: what it does to the loudness, in a fifth of the time. */
export function levellingForecast({ gainDb, limitDbfs }: Levelling): string {
  const gain = `volume=${gainDb.toFixed(3)}dB`;
  if (limitDbfs === null) return gain;
  const limit = (10 ** (limitDbfs / 20)).toFixed(6);
  return `${gain},alimiter=limit=${limit}:level=disabled:attack=2:release=40:latency=1`;
}

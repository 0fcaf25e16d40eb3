import type { EnvelopePoint } from '../cut/envelope';
import { mixOf } from '../cut/mix';
import { MIX_RATE, SOUND_LEAD_US, type SoundPiece } from '../deliver/sound-piece';
import { noInputs, openInput } from './input-list';
import { seconds } from './seconds';

/** Where sound is cut it fades over this, so that nothing clicks. */
const SEAM_S = 0.005;

/**
 * Inputs, filters and the stream that comes out for the sound of one piece: its tracks mixed by their gains, cut to the sample.
 * @returns null where all of it is silence
 */
export function soundPieceArgs(
  { inputs, originUs, speed, samples, fade, ...step }: SoundPiece,
  channels: 1 | 2,
): string[] | null {
  if (inputs.length === 0) return null;
  const list = noInputs();
  const layout = `aformat=sample_fmts=flt:channel_layouts=${channels === 1 ? 'mono' : 'stereo'}`;
  const placed = `asetpts=PTS-${seconds(originUs)}/TB,atrim=start=0,aresample=${MIX_RATE}:async=1:first_pts=0`;
  const chains = inputs.map(({ track, channels: given, path, startUs, encoderDelayUs }, i) => {
    const fromUs = originUs - SOUND_LEAD_US;
    const number = openInput(list, path, [
      ...(fromUs > startUs ? ['-noaccurate_seek', '-ss', seconds(fromUs)] : []),
      ...(encoderDelayUs > 0 ? ['-itsoffset', seconds(-encoderDelayUs)] : []),
    ]);
    const { gainDb, points } = mixOf(step, track);
    const copied = channels === 2 && given === 1 ? 'pan=stereo|c0=c0|c1=c0,' : '';
    return `[${number}:a]${placed},${copied}${layout},${atSpeed(speed, samples)},atrim=end_sample=${samples},volume=${gainDb}dB${enveloped(points)}[s${i}]`;
  });
  const fadeOutS = Math.max(0, samples / MIX_RATE - SEAM_S);
  const mix = [
    `${inputs.map((_, i) => `[s${i}]`).join('')}amix=inputs=${inputs.length}:normalize=0:duration=longest`,
    ...(fade.in ? [`afade=t=in:d=${SEAM_S}`] : []),
    ...(fade.out ? [`afade=t=out:st=${fadeOutS.toFixed(6)}:d=${SEAM_S}`] : []),
    `atrim=end_sample=${samples}`,
  ];
  return [
    ...['-copyts', ...list.args, '-filter_complex'],
    [...chains, `${mix.join(',')}[mix]`].join(';'),
    ...['-map', '[mix]'],
  ];
}

/**
 * At least so many samples, faster or slower at the same pitch; the filter takes no less than a half at a time. The silence after a sound
 * goes through it too: it loses the last of what ends within it, and two such ends in one mix make FFmpeg 5.1 wait for ever.
 */
function atSpeed(speed: number, samples: number): string {
  if (speed === 1) return `apad=whole_len=${samples}`;
  return speed < 0.5 ? `apad,atempo=0.5,atempo=${speed / 0.5}` : `apad,atempo=${speed}`;
}

/** A moving gain changes every so many samples, 1 ms: no ear hears such a step. */
const TOLD_SAMPLES = 48;

/** A filter after the gain, where it moves. @param points on the clock of the samples */
function enveloped(points: readonly EnvelopePoint[]): string {
  const [first] = points;
  if (!first) return '';
  const told = ({ gainDb }: EnvelopePoint) => gainDb.toFixed(4);
  // From the end on: each "before this point" holds all that comes after it.
  const db = points.reduceRight(
    (later, point, i) => {
      const before = points[i - 1];
      if (!before) return `if(lt(t,${seconds(point.atUs)}),${told(point)},${later})`;
      const [fromS, lengthS] = [seconds(before.atUs), seconds(point.atUs - before.atUs)];
      const line =
        point.atUs > before.atUs
          ? `${told(before)}+(${(point.gainDb - before.gainDb).toFixed(4)})*(t-${fromS})/${lengthS}`
          : told(before);
      return `if(lt(t,${seconds(point.atUs)}),${line},${later})`;
    },
    told(points.at(-1) ?? first),
  );
  return `,asetpts=N/SR/TB,asetnsamples=n=${TOLD_SAMPLES}:p=0,volume='pow(10,(${db})/20)':eval=frame`;
}

/** How a mix lies between its pieces and the encoder: raw 32-bit floats. */
export const rawMix = (channels: 1 | 2): string[] => [
  ...['-f', 'f32le', '-ar', String(MIX_RATE), '-ac', String(channels)],
];

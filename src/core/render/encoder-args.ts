import type { Destination } from '../destination';
import { referencePictures } from '../levels';
import { type FrameRate, framesPerSecond } from '../rational';
import type { Size } from '../sizes';

/** The codec of the frames. AV1 where it is the first choice of the destination; the live recorder's other codecs are not made here. */
export type MadeCodec = 'h264' | 'av1';

const COLOUR = '-colorspace bt709 -color_primaries bt709 -color_trc bt709 -color_range tv'.split(' ');

/**
 * Constant quality by aim. Measured on screen content: text clarity 0.998 and more at these (docs/figures.md, `compact`).
 */
const CRF: Record<Destination['aim'], Record<MadeCodec, number>> = {
  untouched: { h264: 17, av1: 24 },
  compact: { h264: 22, av1: 33 },
  editing: { h264: 12, av1: 18 },
};
/** Beyond these text fall apart: then rather fewer pixels. */
export const WORST_CRF: Record<MadeCodec, number> = { h264: 34, av1: 55 };

export const madeCodec = ({ video }: Destination): MadeCodec => (video.codecs[0] === 'av1' ? 'av1' : 'h264');
export const firstCrf = (destination: Destination): number => CRF[destination.aim][madeCodec(destination)];

/**
 * Arguments of the video encoder for screen content.
 * x264: no psychovisual tricks, which spend bits on texture that text has not; more reordered frames and references, since most of a
 * screen stands still and what was covered comes back; keyframes finer than what is predicted from them. SVT-AV1: screen tools on,
 * which its own detection leaves off.
 * @param size of the pictures that are encoded
 */
export function pictureEncoderArgs(
  destination: Destination,
  rate: FrameRate,
  crf: number,
  size: Size,
): string[] {
  const every = destination.video.keyframeEveryS ?? 10;
  const group = String(Math.max(1, Math.floor(every * framesPerSecond(rate))));
  const pixels = ['-pix_fmt', destination.video.pixelFormat ?? 'yuv420p', ...COLOUR];
  if (madeCodec(destination) === 'av1')
    return [
      ...['-c:v', 'libsvtav1', '-preset', '8', '-crf', String(crf), '-g', group],
      ...['-svtav1-params', 'scm=1', ...pixels],
    ];
  const profile = destination.video.h264?.profiles.at(-1) ?? 'High';
  const common = [
    '-c:v',
    'libx264',
    '-profile:v',
    PROFILES[profile] ?? 'high',
    '-crf',
    String(crf),
    '-g',
    group,
  ];
  if (destination.aim === 'editing') return [...common, '-preset', 'veryfast', '-bf', '0', ...pixels];
  return [
    ...common,
    ...['-preset', 'slow', '-bf', '8', '-refs', String(references(destination, size))],
    ...['-x264-params', FOR_TEXT, ...pixels],
  ];
}

/** Found for text of a screen, keyframes every ten seconds (docs/figures.md, `compact`). */
const FOR_TEXT = 'psy=0:aq-mode=0:deblock=-2,-2:rc-lookahead=80:qcomp=0.8:ipratio=1.8:me=umh';
/** More bring nothing more. */
const MOST_REFERENCES = 8;
/** Decoded by whatever plays 1080p at 60 fps, where the destination asks for no level. */
const USUAL_LEVEL = 42;

/** As many as a decoder of the destination's level keeps. */
const references = ({ video }: Destination, size: Size): number =>
  Math.min(MOST_REFERENCES, referencePictures(video.h264?.maxLevel ?? USUAL_LEVEL, size));

const PROFILES: Partial<Record<string, string>> = {
  'Constrained Baseline': 'baseline',
  Baseline: 'baseline',
  Main: 'main',
  High: 'high',
  'High 4:4:4 Predictive': 'high444',
};

/**
 * Encodes the few pictures between a cut and the next copied keyframe. Its parameter sets get the number 1, so that they stand
 * beside the copied ones, which have 0, in one file (ITU-T H.264 7.4.2.1.1: seq_parameter_set_id).
 */
export const boundaryEncoderArgs = (): string[] => [
  ...['-c:v', 'libx264', '-profile:v', 'high', '-preset', 'veryfast', '-crf', '14', '-bf', '0', '-g', '9999'],
  ...['-x264-params', `sps-id=${BOUNDARY_SET}:scenecut=0`, '-pix_fmt', 'yuv420p', ...COLOUR],
];
export const BOUNDARY_SET = 1;

/**
 * The quality for the next try when a file came out too large: bytes halve about every six steps of CRF, ten of AV1's.
 * @returns null when text would fall apart
 */
export function nextCrf(codec: MadeCodec, crf: number, bytes: number, maxBytes: number): number | null {
  const halving = codec === 'av1' ? 10 : 6;
  const step = Math.max(1, Math.ceil(halving * Math.log2(bytes / maxBytes) + 0.5));
  if (crf >= WORST_CRF[codec]) return null;
  return Math.min(WORST_CRF[codec], crf + step);
}

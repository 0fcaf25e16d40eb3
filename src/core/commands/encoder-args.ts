import type { FrameRate } from '../base/rational';
import type { Size } from '../base/sizes';
import { referencePictures } from '../codec/levels';
import { keyframeFrames, madeCodec } from '../deliver/quality';
import type { Destination } from '../destination/destination';

/** The colours of all that is made here, said in the stream. */
export const BT709_ARGS = '-colorspace bt709 -color_primaries bt709 -color_trc bt709 -color_range tv'.split(
  ' ',
);

/**
 * Arguments of the video encoder for screen content.
 * x264: no psychovisual tricks, which spend bits on texture that text has not; more reordered frames and references, since most of a
 * screen stands still and what was covered comes back; keyframes finer than what is predicted from them. SVT-AV1: screen tools on,
 * which its own detection leaves off.
 * @param size of the pictures that are encoded
 * @param spares whether they carry an area of which less is kept
 */
export function pictureEncoderArgs(
  destination: Destination,
  rate: FrameRate,
  crf: number,
  size: Size,
  spares = false,
): string[] {
  const group = String(keyframeFrames(destination, rate));
  const pixels = ['-pix_fmt', destination.video.pixelFormat ?? 'yuv420p', ...BT709_ARGS];
  if (madeCodec(destination) === 'av1')
    return [
      ...['-c:v', 'libsvtav1', '-preset', '8', '-crf', String(crf), '-g', group],
      ...['-svtav1-params', 'scm=1:aq-mode=0', ...pixels],
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
    ...['-x264-params', spares ? `${FOR_TEXT}:${HEEDS_AREAS}` : `${FOR_TEXT}:aq-mode=0`, ...pixels],
  ];
}

/** Whether less is kept of cameras: where the bytes count, and the encoder can be told. */
export const sparesCameras = (destination: Destination): boolean =>
  destination.aim === 'compact' && madeCodec(destination) === 'h264';

/** Found for text of a screen, keyframes every ten seconds (docs/figures.md, `compact`). */
const FOR_TEXT = 'psy=0:deblock=-2,-2:rc-lookahead=80:qcomp=0.8:ipratio=1.8:me=umh';
/** Nothing is quantized by its texture, and areas of their own are heeded. */
const HEEDS_AREAS = 'aq-mode=1:aq-strength=0';
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
 * Encodes pictures that stand beside copied ones: the few between a cut and the next keyframe, and steps with effects. Its parameter
 * sets get the number 1, so that they stand beside the copied ones, which have 0, in one file (ITU-T H.264 7.4.2.1.1:
 * seq_parameter_set_id).
 * @param keyframeFrames a keyframe at least every so many frames
 */
export const encoderBesideCopied = (keyframeFrames: number): string[] => [
  ...['-c:v', 'libx264', '-profile:v', 'high', '-preset', 'veryfast', '-crf', '14', '-bf', '0'],
  ...['-g', String(keyframeFrames)],
  ...['-x264-params', `sps-id=${BOUNDARY_SET}:scenecut=0`, '-pix_fmt', 'yuv420p', ...BT709_ARGS],
];
export const BOUNDARY_SET = 1;

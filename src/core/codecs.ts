import { z } from 'zod';
import { ProblemError } from './problem';
import { type FrameRate, framesPerSecond, rateText } from './rational';
import { type Size, sizeText } from './sizes';

export const VideoCodec = z.enum(['h264', 'vp9', 'av1']);
export type VideoCodec = z.infer<typeof VideoCodec>;
export const CODEC_NAMES: Record<VideoCodec, string> = { h264: 'H.264', vp9: 'VP9', av1: 'AV1' };

/** The name of a codec as people know it, from what a probe says; what is not known here keeps its own. */
export function codecName(codec: string): string {
  const known = VideoCodec.safeParse(codec);
  return known.success ? CODEC_NAMES[known.data] : codec;
}

export type H264Level = {
  /** level_idc: ten times the level's number. */
  idc: number;
  maxMacroblocksPerSecond: number;
  maxFrameMacroblocks: number;
  /** For the Main profile; the High profile may use 1.25 times as much (table A-2, cpbBrVclFactor 1250). */
  maxKbps: number;
};

/** ITU-T H.264 (08/2021) Annex A, table A-1: MaxMBPS, MaxFS, MaxBR. Levels a screen recording never needs are left out. */
const H264_LEVELS: readonly H264Level[] = [
  { idc: 21, maxMacroblocksPerSecond: 19_800, maxFrameMacroblocks: 792, maxKbps: 4_000 },
  { idc: 22, maxMacroblocksPerSecond: 20_250, maxFrameMacroblocks: 1_620, maxKbps: 4_000 },
  { idc: 30, maxMacroblocksPerSecond: 40_500, maxFrameMacroblocks: 1_620, maxKbps: 10_000 },
  { idc: 31, maxMacroblocksPerSecond: 108_000, maxFrameMacroblocks: 3_600, maxKbps: 14_000 },
  { idc: 32, maxMacroblocksPerSecond: 216_000, maxFrameMacroblocks: 5_120, maxKbps: 20_000 },
  { idc: 40, maxMacroblocksPerSecond: 245_760, maxFrameMacroblocks: 8_192, maxKbps: 20_000 },
  { idc: 42, maxMacroblocksPerSecond: 522_240, maxFrameMacroblocks: 8_704, maxKbps: 50_000 },
  { idc: 50, maxMacroblocksPerSecond: 589_824, maxFrameMacroblocks: 22_080, maxKbps: 135_000 },
  { idc: 51, maxMacroblocksPerSecond: 983_040, maxFrameMacroblocks: 36_864, maxKbps: 240_000 },
  { idc: 52, maxMacroblocksPerSecond: 2_073_600, maxFrameMacroblocks: 36_864, maxKbps: 240_000 },
];

/**
 * The lowest H.264 level that holds a picture size, frame rate and bitrate (High profile).
 * A.3.1 also bounds each side by √(8 × MaxFS) macroblocks.
 * @returns undefined when even the highest level is too small
 */
export function h264Level(size: Size, rate: FrameRate, bitrateKbps: number): H264Level | undefined {
  const [w, h] = [Math.ceil(size.width / 16), Math.ceil(size.height / 16)];
  const perSecond = w * h * framesPerSecond(rate);
  return H264_LEVELS.find(
    (level) =>
      w * h <= level.maxFrameMacroblocks &&
      Math.max(w, h) <= Math.sqrt(8 * level.maxFrameMacroblocks) &&
      perSecond <= level.maxMacroblocksPerSecond &&
      bitrateKbps <= level.maxKbps * 1.25,
  );
}

/** VP9 levels: luma samples a second and a picture, as in the codec's level definitions. */
const VP9_LEVELS = [
  [20, 4_608_000, 122_880],
  [21, 9_216_000, 245_760],
  [30, 20_736_000, 552_960],
  [31, 36_864_000, 983_040],
  [40, 83_558_400, 2_228_224],
  [41, 160_432_128, 2_228_224],
  [50, 311_951_360, 8_912_896],
  [51, 588_251_136, 8_912_896],
  [52, 1_176_502_272, 8_912_896],
  [61, 2_353_004_544, 35_651_584],
] as const;

/** AV1 bitstream specification, Annex A.3: seq_level_idx, MaxDisplayRate, MaxPicSize. */
const AV1_LEVELS = [
  [0, 4_423_680, 147_456],
  [1, 8_363_520, 278_784],
  [4, 19_975_680, 665_856],
  [5, 31_950_720, 1_065_024],
  [8, 70_778_880, 2_359_296],
  [9, 141_557_760, 2_359_296],
  [12, 267_386_880, 8_912_896],
  [13, 534_773_760, 8_912_896],
  [16, 1_069_547_520, 35_651_584],
] as const;

/**
 * The codec string for WebCodecs (RFC 6381 form) with the lowest level that is large enough.
 * @throws {ProblemError} `codec-ceiling` when no level holds it, naming what would
 */
export function codecString(codec: VideoCodec, size: Size, rate: FrameRate, bitrateKbps: number): string {
  const samples = size.width * size.height;
  const perSecond = samples * framesPerSecond(rate);
  if (codec === 'h264') {
    const level = h264Level(size, rate, bitrateKbps);
    if (level) return `avc1.6400${level.idc.toString(16).padStart(2, '0')}`;
  } else {
    const levels = codec === 'vp9' ? VP9_LEVELS : AV1_LEVELS;
    const level = levels.find(
      ([, rateLimit, pictureLimit]) => perSecond <= rateLimit && samples <= pictureLimit,
    );
    if (level && codec === 'vp9') return `vp09.00.${level[0]}.08`;
    if (level) return `av01.0.${String(level[0]).padStart(2, '0')}M.08`;
  }
  throw new ProblemError({
    code: 'codec-ceiling',
    message: `${CODEC_NAMES[codec]} has no level for ${sizeText(size)} at ${rateText(rate)} frames a second and ${bitrateKbps} kb/s.`,
    hint: 'Choose a smaller picture or fewer frames a second.',
    field: 'picture',
  });
}

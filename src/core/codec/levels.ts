import { type FrameRate, framesPerSecond, rateText } from '../base/rational';
import { evenDown, type Size, sizeText } from '../base/sizes';
import { CODEC_NAMES, type VideoCodec } from './codecs';

/** What a decoder of a codec's level must be able to take. */
export type Level = {
  /** As people write it: "4.2". */
  name: string;
  /** As a codec string carries it: level_idc of H.264, ten times the level for VP9, seq_level_idx of AV1. */
  code: number;
  /** Luma samples of a picture; for H.264 those of its whole macroblocks. */
  maxSamples: number;
  maxWidth: number;
  maxHeight: number;
  maxSamplesPerSecond: number;
  /** Of the profile that is recorded here: High, Profile 0, Main. */
  maxKbps: number;
};

type Row = readonly [
  name: string,
  code: number,
  samplesPerSecond: number,
  samples: number,
  width: number,
  height: number,
  kbps: number,
];
const levelOf = ([
  name,
  code,
  maxSamplesPerSecond,
  maxSamples,
  maxWidth,
  maxHeight,
  maxKbps,
]: Row): Level => ({
  name,
  code,
  maxSamples,
  maxWidth,
  maxHeight,
  maxSamplesPerSecond,
  maxKbps,
});

const MACROBLOCK = 16;
const MACROBLOCK_SAMPLES = MACROBLOCK * MACROBLOCK;
/** ITU-T H.264 (08/2021) table A-2: the High profile may use 1.25 times the bitrate of table A-1 (cpbBrVclFactor 1250). */
const HIGH_PROFILE = 1.25;

/** ITU-T H.264 (08/2021) table A-1, MaxDpbMbs: macroblocks of all pictures that a decoder keeps, by level_idc. */
const MAX_DPB_MACROBLOCKS: Readonly<Record<number, number>> = {
  ...{ 10: 396, 11: 900, 12: 2_376, 13: 2_376, 20: 2_376, 21: 4_752, 22: 8_100, 30: 8_100, 31: 18_000 },
  ...{ 32: 20_480, 40: 32_768, 41: 32_768, 42: 34_816, 50: 110_400, 51: 184_320, 52: 184_320 },
  ...{ 60: 696_320, 61: 696_320, 62: 696_320 },
};

/**
 * How many pictures an H.264 decoder of a level keeps to refer to (ITU-T H.264 A.3.1, MaxDpbFrames).
 * @param level level_idc
 * @returns 1 … 16
 */
export function referencePictures(level: number, { width, height }: Size): number {
  const macroblocks = Math.ceil(width / MACROBLOCK) * Math.ceil(height / MACROBLOCK);
  return Math.max(1, Math.min(16, Math.floor((MAX_DPB_MACROBLOCKS[level] ?? 0) / macroblocks)));
}

/** ITU-T H.264 (08/2021) Annex A, table A-1: MaxMBPS, MaxFS, MaxBR. A.3.1 bounds each side by √(8 × MaxFS) macroblocks. */
const H264_LEVELS: readonly Level[] = (
  [
    ['1.0', 10, 1_485, 99, 64],
    ['1.1', 11, 3_000, 396, 192],
    ['1.2', 12, 6_000, 396, 384],
    ['1.3', 13, 11_880, 396, 768],
    ['2.0', 20, 11_880, 396, 2_000],
    ['2.1', 21, 19_800, 792, 4_000],
    ['2.2', 22, 20_250, 1_620, 4_000],
    ['3.0', 30, 40_500, 1_620, 10_000],
    ['3.1', 31, 108_000, 3_600, 14_000],
    ['3.2', 32, 216_000, 5_120, 20_000],
    ['4.0', 40, 245_760, 8_192, 20_000],
    ['4.1', 41, 245_760, 8_192, 50_000],
    ['4.2', 42, 522_240, 8_704, 50_000],
    ['5.0', 50, 589_824, 22_080, 135_000],
    ['5.1', 51, 983_040, 36_864, 240_000],
    ['5.2', 52, 2_073_600, 36_864, 240_000],
    ['6.0', 60, 4_177_920, 139_264, 240_000],
    ['6.1', 61, 8_355_840, 139_264, 480_000],
    ['6.2', 62, 16_711_680, 139_264, 800_000],
  ] as const
).map(([name, code, perSecond, frame, kbps]) => {
  const side = Math.floor(Math.sqrt(8 * frame)) * MACROBLOCK;
  const [samples, samplesPerSecond] = [frame * MACROBLOCK_SAMPLES, perSecond * MACROBLOCK_SAMPLES];
  return levelOf([name, code, samplesPerSecond, samples, side, side, kbps * HIGH_PROFILE]);
});

/** VP9 Levels (WebM project, "VP9 Levels", 2016): MaxLumaSampleRate, MaxLumaPictureSize, MaxBitrate, MaxLumaPictureBreadth. */
const VP9_LEVELS: readonly Level[] = (
  [
    ['1.0', 10, 829_440, 36_864, 200, 512],
    ['1.1', 11, 2_764_800, 73_728, 800, 768],
    ['2.0', 20, 4_608_000, 122_880, 1_800, 960],
    ['2.1', 21, 9_216_000, 245_760, 3_600, 1_344],
    ['3.0', 30, 20_736_000, 552_960, 7_200, 2_048],
    ['3.1', 31, 36_864_000, 983_040, 12_000, 2_752],
    ['4.0', 40, 83_558_400, 2_228_224, 18_000, 4_160],
    ['4.1', 41, 160_432_128, 2_228_224, 30_000, 4_160],
    ['5.0', 50, 311_951_360, 8_912_896, 60_000, 8_384],
    ['5.1', 51, 588_251_136, 8_912_896, 120_000, 8_384],
    ['5.2', 52, 1_176_502_272, 8_912_896, 180_000, 8_384],
    ['6.0', 60, 1_176_502_272, 35_651_584, 180_000, 16_832],
    ['6.1', 61, 2_353_004_544, 35_651_584, 240_000, 16_832],
    ['6.2', 62, 4_706_009_088, 35_651_584, 480_000, 16_832],
  ] as const
).map(([name, code, perSecond, samples, kbps, side]) =>
  levelOf([name, code, perSecond, samples, side, side, kbps]),
);

/** AV1 Bitstream & Decoding Process Specification, Annex A.3: MaxDisplayRate, MaxPicSize, MaxHSize, MaxVSize, MainMbps. */
const AV1_LEVELS: readonly Level[] = (
  [
    ['2.0', 0, 4_423_680, 147_456, 2_048, 1_152, 1_500],
    ['2.1', 1, 8_363_520, 278_784, 2_816, 1_584, 3_000],
    ['3.0', 4, 19_975_680, 665_856, 4_352, 2_448, 6_000],
    ['3.1', 5, 31_950_720, 1_065_024, 5_504, 3_096, 10_000],
    ['4.0', 8, 70_778_880, 2_359_296, 6_144, 3_456, 12_000],
    ['4.1', 9, 141_557_760, 2_359_296, 6_144, 3_456, 20_000],
    ['5.0', 12, 267_386_880, 8_912_896, 8_192, 4_352, 30_000],
    ['5.1', 13, 534_773_760, 8_912_896, 8_192, 4_352, 40_000],
    ['5.2', 14, 1_069_547_520, 8_912_896, 8_192, 4_352, 60_000],
    ['6.0', 16, 1_069_547_520, 35_651_584, 16_384, 8_704, 60_000],
    ['6.1', 17, 2_139_095_040, 35_651_584, 16_384, 8_704, 100_000],
    ['6.2', 18, 4_278_190_080, 35_651_584, 16_384, 8_704, 160_000],
  ] as const
).map(levelOf);

/** All levels of a codec, the lowest first. */
export const LEVELS: Readonly<Record<VideoCodec, readonly Level[]>> = {
  h264: H264_LEVELS,
  vp9: VP9_LEVELS,
  av1: AV1_LEVELS,
};

/** What is encoded: all that a level limits. Without a profile it is the highest that is recorded here. */
export type Stream = { size: Size; rate: FrameRate; bitrateKbps: number; profile?: H264Profile };
export type H264Profile = 'constrained-baseline' | 'main' | 'high';

/** The bitrate that a level carries in a profile, kb/s: of H.264, Baseline and Main carry what table A-1 says, High a quarter more. */
export const mostKbps = (codec: VideoCodec, level: Level, profile: H264Profile = 'high'): number =>
  codec === 'h264' && profile !== 'high' ? level.maxKbps / HIGH_PROFILE : level.maxKbps;

const blocks = (pixels: number) => Math.ceil(pixels / MACROBLOCK) * MACROBLOCK;
const coded = (codec: VideoCodec, { width, height }: Size): Size =>
  codec === 'h264' ? { width: blocks(width), height: blocks(height) } : { width, height };

export type Limit = 'picture' | 'frame-rate' | 'bitrate';

/** The limits of a level that a stream breaks; none when it fits. */
export function brokenLimits(
  codec: VideoCodec,
  level: Level,
  { size, rate, bitrateKbps, profile }: Stream,
): Limit[] {
  const { width, height } = coded(codec, size);
  const broken: Limit[] = [];
  if (width * height > level.maxSamples || width > level.maxWidth || height > level.maxHeight)
    broken.push('picture');
  else if (width * height * framesPerSecond(rate) > level.maxSamplesPerSecond) broken.push('frame-rate');
  if (bitrateKbps > mostKbps(codec, level, profile)) broken.push('bitrate');
  return broken;
}

/** The lowest level that holds a stream; undefined when even the highest is too small. */
export const lowestLevel = (codec: VideoCodec, stream: Stream): Level | undefined =>
  LEVELS[codec].find((level) => brokenLimits(codec, level, stream).length === 0);

/** The most frames per second (whole) that a level holds at a size; 0 when the picture alone is too large. */
export function mostFramesPerSecond(codec: VideoCodec, level: Level, size: Size): number {
  const { width, height } = coded(codec, size);
  if (width * height > level.maxSamples || width > level.maxWidth || height > level.maxHeight) return 0;
  return Math.floor(level.maxSamplesPerSecond / (width * height));
}

/** The largest picture of the same shape that a level holds at a frame rate; even sides. */
export function largestPicture(codec: VideoCodec, level: Level, size: Size, rate: FrameRate): Size {
  const room = Math.min(level.maxSamples, level.maxSamplesPerSecond / framesPerSecond(rate));
  let scale = Math.min(
    1,
    Math.sqrt(room / (size.width * size.height)),
    level.maxWidth / size.width,
    level.maxHeight / size.height,
  );
  // Whole macroblocks take a little more than the picture itself.
  for (;;) {
    const smaller = { width: evenDown(size.width * scale), height: evenDown(size.height * scale) };
    if (
      smaller.width <= 16 ||
      brokenLimits(codec, level, { size: smaller, rate, bitrateKbps: 0 }).length === 0
    )
      return smaller;
    scale *= 0.99;
  }
}

/** Which limit of a level a stream breaks, and what would fit: a sentence each. Null when it fits. */
export function levelAdvice(
  codec: VideoCodec,
  level: Level,
  stream: Stream,
): { sentence: string; fix: string } | null {
  const [first] = brokenLimits(codec, level, stream);
  if (!first) return null;
  const named = `${CODEC_NAMES[codec]} level ${level.name}`;
  const { size, rate, bitrateKbps, profile } = stream;
  const next = lowestLevel(codec, stream);
  const or = next ? `, or level ${next.name}` : '';
  if (first === 'bitrate')
    return {
      sentence: `${named} carries at most ${mostKbps(codec, level, profile)} kb/s, and ${bitrateKbps} are asked.`,
      fix: `Choose ${mostKbps(codec, level, profile)} kb/s or less${or}.`,
    };
  const smaller = sizeText(largestPicture(codec, level, size, rate));
  if (first === 'picture')
    return {
      sentence: `${named} does not allow a picture of ${sizeText(size)}.`,
      fix: `Choose ${smaller} or smaller${or}.`,
    };
  const fewer = mostFramesPerSecond(codec, level, size);
  return {
    sentence: `${named} allows at most ${fewer} fps at ${sizeText(size)}; the target is ${rateText(rate)} fps.`,
    fix: `Choose ${fewer} fps or less, ${smaller}${or}.`,
  };
}

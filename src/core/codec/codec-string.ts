import { ProblemError } from '../base/problem';
import type { VideoCodec } from './codecs';
import { FOURCC } from './fourcc';
import { type H264Profile, LEVELS, levelAdvice, lowestLevel, type Stream } from './levels';

/** profile_idc and the constraint flags of H.264 (Annex A.2), as they stand in a codec string. */
const H264_PROFILES: Readonly<Record<H264Profile, string>> = {
  'constrained-baseline': '42e0',
  main: '4d00',
  high: '6400',
};

const two = (n: number, base = 10) => n.toString(base).padStart(2, '0');

/** The codec string of H.264. @param level level_idc: ten times the level's name */
export const avcString = (profile: H264Profile, level: number): string =>
  `${FOURCC.h264}.${H264_PROFILES[profile]}${two(level, 16)}`;

/**
 * The codec string for WebCodecs (RFC 6381 form; for VP9 the VP Codec ISO Media File Format Binding, for AV1 the AV1 Codec ISO
 * Media File Format Binding, section 5).
 * @param levelName a level by name; without one it is the lowest that is large enough
 * @throws {ProblemError} `codec-ceiling` when it is not large enough, with the limit that is broken and what would fit
 */
export function codecString(codec: VideoCodec, stream: Stream, levelName: string | null = null): string {
  const levels = LEVELS[codec];
  const named = levels.find(({ name }) => name === levelName);
  const level = named ?? (levelName === null ? lowestLevel(codec, stream) : undefined);
  const highest = level ?? levels.at(-1);
  const advice = highest && levelAdvice(codec, highest, stream);
  if (!level || advice)
    throw new ProblemError({
      code: 'codec-ceiling',
      message: advice?.sentence ?? `There is no level ${levelName} of this codec.`,
      hint: advice?.fix ?? 'Use the lowest level that fits.',
      field: 'picture',
    });
  if (codec === 'h264') return avcString(stream.profile ?? 'high', level.code);
  return codec === 'vp9'
    ? `${FOURCC.vp9}.00.${two(level.code)}.08`
    : `${FOURCC.av1}.0.${two(level.code)}M.08`;
}

import type { VideoCodec } from './codecs';
import { LEVELS, levelAdvice, lowestLevel } from './levels';
import { ProblemError } from './problem';
import type { FrameRate } from './rational';
import type { Size } from './sizes';

/**
 * The codec string for WebCodecs (RFC 6381 form; for VP9 the VP Codec ISO Media File Format Binding, for AV1 the AV1 Codec ISO
 * Media File Format Binding, section 5) with the lowest level that is large enough.
 * @throws {ProblemError} `codec-ceiling` when not even the highest is, with the limit that is broken and what would fit
 */
export function codecString(codec: VideoCodec, size: Size, rate: FrameRate, bitrateKbps: number): string {
  const stream = { size, rate, bitrateKbps };
  const level = lowestLevel(codec, stream);
  if (!level) {
    const highest = LEVELS[codec].at(-1);
    const advice = highest && levelAdvice(codec, highest, stream);
    throw new ProblemError({
      code: 'codec-ceiling',
      message: advice?.sentence ?? 'No level of this codec holds the picture.',
      hint: advice?.fix,
      field: 'picture',
    });
  }
  const two = (n: number, base = 10) => n.toString(base).padStart(2, '0');
  if (codec === 'h264') return `avc1.6400${two(level.code, 16)}`;
  return codec === 'vp9' ? `vp09.00.${two(level.code)}.08` : `av01.0.${two(level.code)}M.08`;
}

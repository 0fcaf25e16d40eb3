import { CODEC_NAMES, type VideoCodec } from './codecs';
import { lowestLevel } from './levels';
import { ProblemError } from './problem';
import { type FrameRate, rateText } from './rational';
import { type Size, sizeText } from './sizes';

/**
 * The codec string for WebCodecs (RFC 6381 form; for VP9 the VP Codec ISO Media File Format Binding, for AV1 the AV1 Codec ISO
 * Media File Format Binding, section 5) with the lowest level that is large enough.
 * @throws {ProblemError} `codec-ceiling` when no level holds it
 */
export function codecString(codec: VideoCodec, size: Size, rate: FrameRate, bitrateKbps: number): string {
  const level = lowestLevel(codec, { size, rate, bitrateKbps });
  if (!level)
    throw new ProblemError({
      code: 'codec-ceiling',
      message: `${CODEC_NAMES[codec]} has no level for ${sizeText(size)} at ${rateText(rate)} frames a second and ${bitrateKbps} kb/s.`,
      hint: 'Choose a smaller picture or fewer frames a second.',
      field: 'picture',
    });
  const two = (n: number, base = 10) => n.toString(base).padStart(2, '0');
  if (codec === 'h264') return `avc1.6400${two(level.code, 16)}`;
  return codec === 'vp9' ? `vp09.00.${two(level.code)}.08` : `av01.0.${two(level.code)}M.08`;
}

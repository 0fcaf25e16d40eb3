import { z } from 'zod';

export const VideoCodec = z.enum(['h264', 'vp9', 'av1']);
export type VideoCodec = z.infer<typeof VideoCodec>;
export const CODEC_NAMES: Record<VideoCodec, string> = { h264: 'H.264', vp9: 'VP9', av1: 'AV1' };

/** The name of a codec as people know it, from what a probe says; what is not known here keeps its own. */
export function codecName(codec: string): string {
  const known = VideoCodec.safeParse(codec);
  return known.success ? CODEC_NAMES[known.data] : codec;
}

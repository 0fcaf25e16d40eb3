import { z } from 'zod';

/** What sound can be kept at. */
export const SampleRate = z.union([
  z.literal(48_000),
  z.literal(44_100),
  z.literal(24_000),
  z.literal(16_000),
]);
export type SampleRate = z.infer<typeof SampleRate>;
export const SAMPLE_RATES: readonly SampleRate[] = [48_000, 44_100, 24_000, 16_000];
/** Opus knows 48, 24 and 16 kHz (RFC 6716, section 2). */
export const OPUS_RATES: readonly SampleRate[] = [48_000, 24_000, 16_000];

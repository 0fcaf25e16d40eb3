import { z } from 'zod';

/** Stages of voice processing, in this order. */
export const Treatment = z.object({
  /** Corner of the high-pass; `null` lets everything through. */
  highPassHz: z.number().min(20).max(300).nullable(),
  /** Noise reduction. */
  denoise: z.boolean(),
  /** Peak at which the gate opens, dBFS; `null` leaves it open. */
  gateDb: z.number().min(-80).max(-10).nullable(),
  /** A gentle compressor; `null` leaves loud and quiet as they are. */
  compressor: z
    .object({
      thresholdDb: z.number().min(-60).max(0),
      ratio: z.number().min(1).max(10),
      makeupDb: z.number().min(0).max(24),
    })
    .nullable(),
});
export type Treatment = z.infer<typeof Treatment>;

export const UNTREATED: Treatment = { highPassHz: null, denoise: false, gateDb: null, compressor: null };

/** What each part begins with when it is turned on. */
export const FIRST_TREATMENT = {
  highPassHz: 80,
  gateDb: -50,
  compressor: { thresholdDb: -24, ratio: 2.5, makeupDb: 4 },
} as const;

export const isTreated = ({ highPassHz, denoise, gateDb, compressor }: Treatment): boolean =>
  highPassHz !== null || denoise || gateDb !== null || compressor !== null;

/** A treatment in words; empty when it is none. */
export const treatmentText = ({ highPassHz, denoise, gateDb, compressor }: Treatment): string =>
  [
    highPassHz !== null && `high-pass at ${highPassHz} Hz`,
    denoise && 'noise reduction',
    gateDb !== null && `gate at −${-gateDb} dBFS`,
    compressor &&
      `compressor ${compressor.ratio}:1 above −${-compressor.thresholdDb} dBFS${compressor.makeupDb ? `, +${compressor.makeupDb} dB` : ''}`,
  ]
    .filter(Boolean)
    .join(', ');

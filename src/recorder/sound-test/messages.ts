import { z } from 'zod';
import { SoundTest } from '@/core/recording/sound-test';
import { SoundSettings } from '../messages';

/** What the worker is to hear. */
export const ToSoundTest = z.object({
  readable: z.instanceof(ReadableStream<AudioData>),
  seconds: z.number().positive(),
  /** How it is kept; null where only its loudness is asked for. */
  settings: SoundSettings.nullable(),
});
export type ToSoundTest = z.infer<typeof ToSoundTest>;

const Samples = z.instanceof(Float32Array<ArrayBuffer>);

/** What it heard. */
export const FromSoundTest = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('heard'),
    measured: SoundTest.pick({ lufs: true, peakDbtp: true, roomLufs: true, clipped: true, hum: true }),
    /** One channel, raw. */
    raw: z.object({ samples: Samples, sampleRate: z.number() }),
    /** Encoded as it is kept, and decoded again. */
    kept: z.object({ samples: Samples, sampleRate: z.number(), bytes: z.int() }).nullable(),
  }),
  z.object({ type: z.literal('failed'), message: z.string() }),
]);
export type FromSoundTest = z.infer<typeof FromSoundTest>;
export type HeardSound = Extract<FromSoundTest, { type: 'heard' }>;

import { z } from 'zod';
import { Size } from '@/core/base/sizes';
import { PictureKind, SoundKind } from './messages';

/** How a practice device misbehaves. */
export const Fault = z.discriminatedUnion('kind', [
  /** Everything arrives this much after it was made; its timestamps stay true. */
  z.object({ kind: z.literal('late'), ms: z.number().min(0).max(5000) }),
  /** One picture of so many is made. */
  z.object({ kind: z.literal('fewer'), oneOf: z.int().min(2).max(60) }),
  /** Unplugged: its track ends, and it cannot be opened until it is well again. */
  z.object({ kind: z.literal('gone') }),
  /** Like a window that was resized. */
  z.object({ kind: z.literal('resized'), size: Size }),
  /** It gives sound, but nothing is heard. */
  z.object({ kind: z.literal('silent') }),
  /** It stays open and gives nothing. */
  z.object({ kind: z.literal('stuck') }),
]);
export type Fault = z.infer<typeof Fault>;

/** An order to a device of every practice desk of this browser; null makes it well again. */
export const FaultOrder = z.object({
  device: z.union([PictureKind, SoundKind]),
  fault: Fault.nullable(),
});
export type FaultOrder = z.infer<typeof FaultOrder>;

/** The channel on which the orders go, from any page of the studio. */
export const FAULT_CHANNEL = 'practice-faults';

import { z } from 'zod';
import { TakeId } from '@/core/ids';
import { Problem } from '@/core/problem';

export const ToUploader = z.discriminatedUnion('type', [
  /** Look at the journal now. */
  z.object({ type: z.literal('now') }),
  /** The take's lesson is no longer there: bring it into a new one. */
  z.object({ type: z.literal('adopt'), take: TakeId }),
]);
export type ToUploader = z.infer<typeof ToUploader>;

/** Told after each round over the journal. */
export const UploadNews = z.object({
  /** Takes whose journal is still here, with what of it has arrived. */
  takes: z.array(
    z.object({
      id: TakeId,
      /** Somebody records it at this moment. */
      live: z.boolean(),
      localBytes: z.int(),
      sentBytes: z.int(),
      /** ISO 8601 */
      startedAt: z.string(),
      /** Why it could not be brought in the last round. */
      problem: Problem.nullable(),
    }),
  ),
  /** Takes that have arrived whole since the page was opened. */
  arrived: z.array(z.object({ id: TakeId, cutOff: z.boolean(), durationUs: z.int() })),
  problem: Problem.nullable(),
});
export type UploadNews = z.infer<typeof UploadNews>;

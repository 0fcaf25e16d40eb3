import { z } from 'zod';
import { LessonId } from '../base/ids';
import { SegmentHead, TakeEnd, TakeHead } from '../recording/take';

/**
 * What a take's folder says of the take (`take.json`): enough to list the take again when the database does not know it. Written beside
 * the media whenever one of these changes.
 */
export const TakeDocument = z.object({
  v: z.literal(1),
  head: TakeHead,
  lesson: z.object({ id: LessonId, title: z.string().min(1).max(200) }),
  number: z.int().min(1),
  title: z.string().max(200).nullable(),
  segments: z.array(SegmentHead).max(10_000),
  /** Null while it is being recorded or uploaded. */
  end: TakeEnd.nullable(),
});
export type TakeDocument = z.infer<typeof TakeDocument>;

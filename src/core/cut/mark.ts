import { z } from 'zod';
import { TakeId } from '../base/ids';
import { Us } from './piece';

/** What has become of one mark of a take. */
export const MarkChange = z.object({
  take: TakeId,
  /** Take time at which it was set, which is what it is known by. One that was not recorded was added in Edit. */
  setUs: Us,
  /** Take time of the mark now; null: removed. */
  atUs: Us.nullable(),
  /** Empty until somebody names it. */
  title: z.string().max(200),
});
export type MarkChange = z.infer<typeof MarkChange>;

import { lengthText } from '@/core/base/length';
import { type Clocks, type Deadline, msLeft } from '@/core/recording/deadline';
import { wallTimeText } from '@/core/recording/schedule';
import type { TakeEvent } from '@/core/recording/take';
import type { Rig } from '@/core/rig/rig';

/** How a take ends with nobody there: what is written into it, and what is said afterwards. */
export type OwnEnd = Pick<TakeEvent, 'kind' | 'data'> & { because: string };

/**
 * Whether a take has reached its limit, or the time of day at which it ends. Its film is cut at the limit to the picture.
 * @param elapsedUs of the take
 * @param stopAt null: it has no time of day
 */
export function ownEnd(
  elapsedUs: number,
  { lengthS }: Rig['limits'],
  stopAt: Deadline | null,
  now: Pick<Clocks, 'monotonicMs'>,
): OwnEnd | null {
  if (lengthS !== null && elapsedUs >= lengthS * 1e6)
    return {
      kind: 'limit',
      data: { lengthS },
      because: `The take has reached its limit of ${lengthText(lengthS)}.`,
    };
  if (stopAt !== null && msLeft(stopAt, now) <= 0)
    return {
      kind: 'schedule',
      data: { stopped: wallTimeText(stopAt.atMs) },
      because: `The take ended at ${wallTimeText(stopAt.atMs)}, as scheduled.`,
    };
  return null;
}

import { lengthText } from '@/core/base/length';
import { wallTimeText } from '@/core/recording/schedule';
import type { TakeEvent } from '@/core/recording/take';
import type { Rig } from '@/core/rig/rig';

/** How a take ends with nobody there: what is written into it, and what is said afterwards. */
export type OwnEnd = Pick<TakeEvent, 'kind' | 'data'> & { because: string };

/**
 * Whether a take has reached its limit, or the time of day at which it ends. Its film is cut at the limit to the picture.
 * @param elapsedUs of the take
 * @param stopAtMs,nowMs the wall clock's, ms since 1970; `stopAtMs` null: it has no time of day
 */
export function ownEnd(
  elapsedUs: number,
  { lengthS }: Rig['limits'],
  stopAtMs: number | null,
  nowMs: number,
): OwnEnd | null {
  if (lengthS !== null && elapsedUs >= lengthS * 1e6)
    return {
      kind: 'limit',
      data: { lengthS },
      because: `The take has reached its limit of ${lengthText(lengthS)}.`,
    };
  if (stopAtMs !== null && nowMs >= stopAtMs)
    return {
      kind: 'schedule',
      data: { stopped: wallTimeText(stopAtMs) },
      because: `The take ended at ${wallTimeText(stopAtMs)}, as scheduled.`,
    };
  return null;
}

import { lengthText } from '../base/length';
import type { TakeEvent } from './take';

/** A start so much later than its time of day is told. */
const LATE_MS = 2000;

/** What a take did alone, a sentence each, from its events. */
export function byItself(events: readonly { kind: string; data: TakeEvent['data'] }[]): string[] {
  return events.flatMap(({ kind, data }) => {
    if (kind === 'limit' && typeof data.lengthS === 'number')
      return [`The take ended at its limit of ${lengthText(data.lengthS)}.`];
    if (kind !== 'schedule') return [];
    if (typeof data.stopped === 'string') return [`The take ended at ${data.stopped}, as scheduled.`];
    if (typeof data.lateMs === 'number' && data.lateMs > LATE_MS)
      return [`The take started ${Math.round(data.lateMs / 1000)} s late: the machine slept or was busy.`];
    return [];
  });
}

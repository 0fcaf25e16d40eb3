import { clockText } from '../base/figures';
import { lengthText } from '../base/length';
import { faultSentence } from './fault-sentence';
import type { TakeEvent } from './take';

/** A start so much later than its time of day is told. */
const LATE_MS = 2000;

/** Kinds of events of which `byItself` speaks. */
export const BY_ITSELF = ['limit', 'schedule', 'fault', 'sleep'] as const satisfies TakeEvent['kind'][];

/** What happened to a take with nobody's doing, a sentence each, from its events in their order. */
export function byItself(
  events: readonly { kind: string; tUs: number; data: TakeEvent['data'] }[],
): string[] {
  return lastFaults(events).flatMap((event) => {
    const { kind, data, tUs } = event;
    if (kind === 'fault') return faultSentence(event) ?? [];
    if (kind === 'limit' && typeof data.lengthS === 'number')
      return [`The take ended at its limit of ${lengthText(data.lengthS)}.`];
    if (kind === 'sleep' && typeof data.ms === 'number')
      return [
        `The computer slept for ${lengthText(Math.round(data.ms / 1000))} at ${clockText(tUs)}; nothing was recorded in that time.`,
      ];
    if (kind !== 'schedule') return [];
    if (typeof data.stopped === 'string') return [`The take ended at ${data.stopped}, as scheduled.`];
    if (typeof data.lateMs === 'number' && data.lateMs > LATE_MS)
      return [`The take started ${Math.round(data.lateMs / 1000)} s late: the machine slept or was busy.`];
    return [];
  });
}

/** How long the ways that are tried after one failure may take altogether. */
const BOUT_US = 10_000_000;

/** Of a track that ended after several failures in a row only the last one is told: that it ended says that nothing helped. */
const lastFaults = <E extends { kind: string; tUs: number; data: TakeEvent['data'] }>(
  events: readonly E[],
): E[] =>
  events.filter(
    (event, i) =>
      event.kind !== 'fault' ||
      event.data.by === 'end' ||
      !events
        .slice(i + 1)
        .some(
          (later) =>
            later.kind === 'fault' &&
            later.data.by === 'end' &&
            later.data.role === event.data.role &&
            later.tUs - event.tUs < BOUT_US,
        ),
  );

import { z } from 'zod';
import { type ScheduleId, TakeId } from '../base/ids';

/**
 * The next instant at which a clock on the wall shows a time, in the time zone of whoever asks. Days on which clocks are changed are as
 * the calendar has them: a time that is left out is the one after the gap.
 * @param wallTime "14:30" or "14:30:05"
 * @returns ms since 1970, later than `afterMs`
 * @throws RangeError when it is no time of day
 */
export function nextWallTime(wallTime: string, afterMs: number): number {
  const [, hours, minutes, seconds = '0'] = /^(\d{2}):(\d{2})(?::(\d{2}))?$/.exec(wallTime) ?? [];
  if (hours === undefined || minutes === undefined || Number(hours) > 23 || Number(minutes) > 59)
    throw new RangeError(`“${wallTime}” is no time of day.`);
  const after = new Date(afterMs);
  const on = (day: number) =>
    new Date(
      after.getFullYear(),
      after.getMonth(),
      after.getDate() + day,
      Number(hours),
      Number(minutes),
      Number(seconds),
    ).getTime();
  return on(0) > afterMs ? on(0) : on(1);
}

/** A time of day as a clock shows it: "14:30", with seconds where they are not 0. */
export function wallTimeText(atMs: number): string {
  const at = new Date(atMs);
  const two = (n: number) => String(n).padStart(2, '0');
  const seconds = at.getSeconds() === 0 ? '' : `:${two(at.getSeconds())}`;
  return `${two(at.getHours())}:${two(at.getMinutes())}${seconds}`;
}

/** When a limit or a planned length is near enough to be told: its last tenth, three seconds at least and half a minute at most. */
export const isNear = (leftS: number, lengthS: number): boolean =>
  leftS <= Math.min(30, Math.max(3, lengthS / 10));

/** `waiting` for its time, `started`, `missed`: it could not start, and says why; `cancelled` by somebody. */
export const ScheduledState = z.enum(['waiting', 'started', 'missed', 'cancelled']);
export type ScheduledState = z.infer<typeof ScheduledState>;

/** A take that begins at an instant of the wall clock, in the order of the list. */
export type ScheduledView = {
  id: ScheduleId;
  startAtMs: number;
  stopAtMs: number | null;
  state: ScheduledState;
  problem: string | null;
  takeId: TakeId | null;
};

/** So long after its time a take that nobody started is missed. */
export const MISSED_AFTER_MS = 60_000;

export const ScheduleInput = z
  .object({ startAtMs: z.int().positive(), stopAtMs: z.int().positive().nullable() })
  .refine(({ startAtMs, stopAtMs }) => stopAtMs === null || stopAtMs > startAtMs, {
    error: 'must be later than the start',
    path: ['stopAtMs'],
  });
export type ScheduleInput = z.infer<typeof ScheduleInput>;

export const ScheduleChange = z.object({
  state: ScheduledState,
  problem: z.string().max(500).nullable().default(null),
  takeId: TakeId.nullable().default(null),
});
export type ScheduleChange = z.infer<typeof ScheduleChange>;

/** Why a take cannot be put into the list; null when it can. Two cannot be recorded at once. */
export function scheduleRefusal(
  wanted: ScheduleInput,
  others: readonly Pick<ScheduledView, 'startAtMs' | 'stopAtMs' | 'state'>[],
  nowMs: number,
): string | null {
  if (wanted.startAtMs <= nowMs) return `${wallTimeText(wanted.startAtMs)} is past.`;
  const end = wanted.stopAtMs ?? Number.POSITIVE_INFINITY;
  for (const other of others) {
    if (other.state !== 'waiting') continue;
    const otherEnd = other.stopAtMs ?? Number.POSITIVE_INFINITY;
    if (wanted.startAtMs < otherEnd && other.startAtMs < end)
      return `It would run into the take at ${wallTimeText(other.startAtMs)}${other.stopAtMs === null ? ', which has no end' : ''}.`;
  }
  return null;
}

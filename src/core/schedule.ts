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

const MINUTE_MS = 60_000;
const HOUR_MS = 60 * MINUTE_MS;
const DAY_MS = 24 * HOUR_MS;

/** How long ago an instant was: "just now", "3 minutes ago", "an hour ago", "5 days ago". One that is yet to come is just now. */
export function agoText(iso: string, nowMs: number): string {
  const ms = nowMs - new Date(iso).getTime();
  if (ms < MINUTE_MS) return 'just now';
  const [count, unit] =
    ms < HOUR_MS
      ? [Math.floor(ms / MINUTE_MS), 'minute']
      : ms < 2 * DAY_MS
        ? [Math.floor(ms / HOUR_MS), 'hour']
        : [Math.floor(ms / DAY_MS), 'day'];
  if (count === 1) return unit === 'hour' ? 'an hour ago' : `a ${unit} ago`;
  return `${count} ${unit}s ago`;
}

/**
 * The take's clock: integer microseconds from the take's first instant, standing still while the take is paused.
 * "Monotonic" times are microseconds of one shared monotonic clock (the page's); every source is mapped to it first.
 */
export type TakeClock = {
  readonly baseUs: number;
  /** Finished pauses in monotonic time, oldest first, not overlapping. */
  readonly pauses: readonly PauseSpan[];
  readonly pausedSinceUs: number | null;
};
export type PauseSpan = { readonly fromUs: number; readonly toUs: number };

export const startClock = (baseUs: number): TakeClock => ({
  baseUs: Math.round(baseUs),
  pauses: [],
  pausedSinceUs: null,
});

/** Pausing twice is the same as once. */
export function pauseClock(clock: TakeClock, atUs: number): TakeClock {
  if (clock.pausedSinceUs !== null) return clock;
  const earliest = clock.pauses.at(-1)?.toUs ?? clock.baseUs;
  return { ...clock, pausedSinceUs: Math.max(Math.round(atUs), earliest) };
}

export function resumeClock(clock: TakeClock, atUs: number): TakeClock {
  if (clock.pausedSinceUs === null) return clock;
  const span = { fromUs: clock.pausedSinceUs, toUs: Math.max(Math.round(atUs), clock.pausedSinceUs) };
  return { ...clock, pauses: [...clock.pauses, span], pausedSinceUs: null };
}

/**
 * Take time of a monotonic instant.
 * @returns negative before the take's start; null inside a pause
 */
export function takeTimeUs(clock: TakeClock, monotonicUs: number): number | null {
  if (clock.pausedSinceUs !== null && monotonicUs >= clock.pausedSinceUs) return null;
  let away = 0;
  for (const { fromUs, toUs } of clock.pauses) {
    if (monotonicUs < fromUs) break;
    if (monotonicUs < toUs) return null;
    away += toUs - fromUs;
  }
  return Math.round(monotonicUs) - clock.baseUs - away;
}

/** Time elapsed on the take's clock: while paused it shows the instant of the pause. */
export function elapsedUs(clock: TakeClock, nowUs: number): number {
  const until = clock.pausedSinceUs ?? nowUs;
  const away = clock.pauses.reduce((sum, { fromUs, toUs }) => sum + toUs - fromUs, 0);
  return Math.max(0, Math.round(until) - clock.baseUs - away);
}

/** The pauses as they are kept with a take: where on its clock, and how long they lasted. */
export function pausesOnTake(clock: TakeClock): { atUs: number; durationUs: number }[] {
  let away = 0;
  return clock.pauses.map(({ fromUs, toUs }) => {
    const span = { atUs: fromUs - clock.baseUs - away, durationUs: toUs - fromUs };
    away += span.durationUs;
    return span;
  });
}

/**
 * Offset that turns a source's timestamps into monotonic time when nothing better is known: a sample cannot arrive
 * before it was taken, so the least (arrival − timestamp) is the offset plus the shortest delay seen.
 * @param pairs arrival (monotonic µs) and timestamp (source µs) of the same samples
 */
export function earliestArrivalOffsetUs(
  pairs: readonly { arrivedUs: number; timestampUs: number }[],
): number {
  return Math.min(...pairs.map(({ arrivedUs, timestampUs }) => arrivedUs - timestampUs));
}

/**
 * Offset from exact pairs: the same frame's capture time (monotonic) and its timestamp. A few pairs may be of
 * neighbouring frames, so the most frequent difference (in 1 ms classes) is right, not the mean.
 * @returns undefined with fewer than `least` pairs in the largest class
 */
export function pairedOffsetUs(differencesUs: readonly number[], least = 5): number | undefined {
  const classes = new Map<number, number[]>();
  for (const d of differencesUs) {
    const key = Math.round(d / 1000);
    const members = classes.get(key);
    if (members) members.push(d);
    else classes.set(key, [d]);
  }
  let best: number[] = [];
  for (const members of classes.values()) if (members.length > best.length) best = members;
  if (best.length < least) return undefined;
  const sorted = [...best].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)];
}

/**
 * Instants that the wall clock names. It is set while a page is open, by hand or by the network; a monotonic clock is not, but may stand
 * still while the machine sleeps.
 */
export type Clocks = {
  /** ms since 1970 */
  wallMs: number;
  /** ms of a clock that never goes back */
  monotonicMs: number;
};

/** An instant of the wall clock, and the same one by the monotonic clock. */
export type Deadline = { atMs: number; monotonicMs: number };

export const deadlineAt = (atMs: number, now: Clocks): Deadline => ({
  atMs,
  monotonicMs: now.monotonicMs + atMs - now.wallMs,
});

/**
 * Time left, ms, negative when it is past: setting the wall clock moves nothing. After a sleep the deadline is set again
 * (`deadlineAt` with the same `atMs`).
 */
export const msLeft = ({ monotonicMs }: Deadline, now: Pick<Clocks, 'monotonicMs'>): number =>
  monotonicMs - now.monotonicMs;

/** A clock that is looked at every few milliseconds and was not for so long has slept, or the whole machine stood still. */
export const ASLEEP_US = 10_000_000;

/**
 * A monotonic clock that notices a sleep at the first look after it.
 * @param now µs
 * @param onSleep told from when to when nobody looked, before that look's time is given
 */
export function wakefulClock(
  now: () => number,
  onSleep: (fromUs: number, toUs: number) => void,
): () => number {
  let last = now();
  return () => {
    const [before, atUs] = [last, now()];
    last = atUs;
    if (atUs - before >= ASLEEP_US) onSleep(before, atUs);
    return atUs;
  };
}

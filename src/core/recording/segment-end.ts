/** A still picture is repeated at least so often: nothing stands for longer without a packet of its own. */
const LONGEST_STANDING_US = 1_200_000;

/**
 * When what a segment's last packet shows or plays is over: it stands for about as long as the one before it did.
 * @param timesUs take times of its packets, ascending
 * @returns take time; 0 without packets
 */
export function segmentEndUs(timesUs: readonly number[]): number {
  const last = timesUs.at(-1) ?? 0;
  const before = timesUs.at(-2) ?? last;
  return last + Math.min(LONGEST_STANDING_US, Math.max(0, last - before));
}

/** A still picture is repeated at least this often, so no packet lasts longer. */
const LONGEST_PACKET_US = 1_200_000;

/**
 * The end of a segment: its last packet lasts about as long as the one before it.
 * @param timesUs take times of its packets, ascending
 * @returns take time; 0 without packets
 */
export function segmentEndUs(timesUs: readonly number[]): number {
  const last = timesUs.at(-1) ?? 0;
  const before = timesUs.at(-2) ?? last;
  return last + Math.min(LONGEST_PACKET_US, Math.max(0, last - before));
}

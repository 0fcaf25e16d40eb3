/**
 * A picture that became due this short while ago may wait for the next drawing: at 30 fps it is then still within
 * `LATE_US` of its time (`picture-lane.ts`).
 */
const MAY_WAIT_US = 16_000;

/**
 * How many of the pictures that wait are used up by a drawing, which shows the last of these. Drawings and pictures come
 * equally often, but neither to the millisecond: where a second picture became due just before a drawing, the next drawing
 * would find none. It waits for that one, and nobody misses the picture before it.
 * @param timesUs of the pictures, oldest first
 * @param waits whether there is a next drawing
 */
export function picturesToTake(timesUs: readonly number[], nowUs: number, waits = true): number {
  const later = timesUs.findIndex((us) => us > nowUs);
  const due = later < 0 ? timesUs.length : later;
  const overdue = timesUs.findIndex((us) => us > nowUs - (waits ? MAY_WAIT_US : 0));
  return Math.max(Math.min(due, 1), overdue < 0 ? timesUs.length : overdue);
}

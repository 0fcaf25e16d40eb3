/** A picture that comes later than this after its time was missed, even when it is still shown. */
export const LATE_US = 50_000;
/** A picture that became due this short while ago may wait for the next drawing: at 30 fps it is then not late yet. */
const MAY_WAIT_US = 16_000;

/**
 * How many of the pictures that wait are used up by a drawing, which shows the last of these. Drawings and pictures come
 * equally often, but neither to the millisecond: where a second picture became due just before a drawing, the next drawing
 * would find none. It waits for that one, and the picture before it is seen, unless that is late itself.
 * @param timesUs of the pictures, oldest first
 * @param waits whether there is a next drawing
 */
export function picturesToTake(timesUs: readonly number[], nowUs: number, waits = true): number {
  const later = timesUs.findIndex((us) => us > nowUs);
  const due = later < 0 ? timesUs.length : later;
  if (!waits) return due;
  const shown = timesUs
    .slice(0, due)
    .findIndex((us, n) => nowUs - us <= LATE_US && nowUs - (timesUs[n + 1] ?? nowUs) < MAY_WAIT_US);
  return shown < 0 ? due : shown + 1;
}

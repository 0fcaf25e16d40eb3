import type { SyncFile } from '../worker/journal-file';

/** Nobody needs to know of more. */
const MOST_BYTES = 1e12;
/** Near enough: the browser itself hands out its room in pieces of this order. */
const EXACT_BYTES = 1_000_000;

/**
 * Measures how much more this browser lets us store. `navigator.storage.estimate()` names a fixed figure to keep the true
 * one private, so it is tried: a file is made longer, which takes room from the quota but writes nothing.
 * @param file an empty file, open; it is empty again afterwards
 * @param mostBytes more than this need not be known
 * @returns bytes that surely fit; the browser asks for some more than it is asked, so the truth is a little higher
 */
export function measureRoom(file: SyncFile, mostBytes = MOST_BYTES): number {
  const fits = (bytes: number): boolean => {
    try {
      file.truncate(Math.round(bytes));
      return true;
    } catch {
      return false;
    }
  };
  try {
    if (fits(mostBytes)) return mostBytes;
    let [low, high] = [0, mostBytes];
    while (high - low > Math.max(EXACT_BYTES, low * 0.02)) {
      // Room spans many magnitudes: halved by factors, then by differences.
      const middle =
        high > 4 * Math.max(low, EXACT_BYTES)
          ? Math.sqrt(Math.max(low, EXACT_BYTES) * high)
          : (low + high) / 2;
      if (fits(middle)) low = middle;
      else high = middle;
    }
    return low;
  } finally {
    file.truncate(0);
  }
}

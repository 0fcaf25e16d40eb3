/**
 * Sequence numbers that travel inside timestamps. A source that counts its pictures puts the count into the last bits of
 * the microseconds: nobody sees the difference, and no picture that is lost on the way is lost silently.
 */
const COUNTS = 256;

/** A timestamp (µs) with the sequence number in its last eight bits; moves it by less than 256 µs. */
export const withSequence = (timestampUs: number, sequence: number): number =>
  timestampUs - (((timestampUs % COUNTS) + COUNTS) % COUNTS) + (sequence % COUNTS);

/** Pictures missing between two that arrived one after the other; 255 at most can be told: 8.5 s at 30 per second. */
export const missingBetween = (beforeUs: number, afterUs: number): number => {
  const sequence = (us: number) => ((us % COUNTS) + COUNTS) % COUNTS;
  return (sequence(afterUs) - sequence(beforeUs) - 1 + 2 * COUNTS) % COUNTS;
};

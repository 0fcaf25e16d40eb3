/**
 * Sound as an unbroken line of samples on the take's clock. Chunks come with times that jitter; the samples themselves
 * are exact. So the sample count leads, and is corrected only where the times leave it for good.
 */
export type SoundLine = {
  readonly sampleRate: number;
  /** Samples a channel placed so far; the line starts at take time 0. */
  readonly placed: number;
  /** The next chunk is placed by its time whatever the difference: at the start and after a pause or a gap. */
  readonly realign: boolean;
};

/** Times of real sound cards jitter by less; a larger difference is a gap that was heard. */
const TOLERATED_US = 30_000;

export const startSoundLine = (sampleRate: number): SoundLine => ({ sampleRate, placed: 0, realign: true });

/**
 * Places one chunk.
 * @param tUs take time of its first sample (may be negative: what lies before the start is cut off)
 * @param frames samples a channel
 * @returns silence to write before it, and how many of its own first samples to leave out
 */
export function placeChunk(
  line: SoundLine,
  tUs: number,
  frames: number,
): { line: SoundLine; silence: number; leaveOut: number } {
  const wanted = Math.round((tUs * line.sampleRate) / 1_000_000);
  const gap = wanted - line.placed;
  const tolerated = line.realign ? 0 : (TOLERATED_US * line.sampleRate) / 1_000_000;
  const correct = Math.abs(gap) > tolerated ? gap : 0;
  const silence = Math.max(0, correct);
  const leaveOut = Math.min(frames, Math.max(0, -correct));
  // A chunk that was left out whole may be followed by another one that still lies before the line's end.
  const realign = leaveOut === frames;
  return { line: { ...line, placed: line.placed + silence + frames - leaveOut, realign }, silence, leaveOut };
}

/** Silence still missing when the take ends at `endUs`. */
export const silenceUntil = (line: SoundLine, endUs: number): number =>
  Math.max(0, Math.round((endUs * line.sampleRate) / 1_000_000) - line.placed);

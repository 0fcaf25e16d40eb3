import { percentile } from '../base/percentile';

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
  /** By how many samples each of the last chunks came late (or, negative, early). */
  readonly differences: readonly number[];
};

/** Times of real sound cards jitter by less; a larger difference is a gap that was heard. */
const TOLERATED_US = 30_000;
/** Half of so many chunks lie on one side of what is right, however they jitter: their median tells a shift that stays. */
const WATCHED_CHUNKS = 128;
/** A shift that stays is mended from here on; lips look wrong from about 40 ms. */
const SHIFT_US = 5_000;

export const startSoundLine = (sampleRate: number): SoundLine => ({
  sampleRate,
  placed: 0,
  realign: true,
  differences: [],
});

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
  const samples = (us: number) => (us * line.sampleRate) / 1_000_000;
  const watched = [...line.differences.slice(1 - WATCHED_CHUNKS), gap];
  const shift = watched.length === WATCHED_CHUNKS ? Math.round(percentile(watched, 0.5)) : 0;
  const jumped = line.realign || Math.abs(gap) > samples(TOLERATED_US);
  const correct = jumped ? gap : Math.abs(shift) > samples(SHIFT_US) ? shift : 0;
  const silence = Math.max(0, correct);
  const leaveOut = Math.min(frames, Math.max(0, -correct));
  // A chunk that was left out whole may be followed by another one that still lies before the line's end.
  const realign = leaveOut === frames;
  const placed = line.placed + silence + frames - leaveOut;
  const differences = correct === 0 ? watched : [];
  return { line: { ...line, placed, realign, differences }, silence, leaveOut };
}

/** Silence still missing when the take ends at `endUs`. */
export const silenceUntil = (line: SoundLine, endUs: number): number =>
  Math.max(0, Math.round((endUs * line.sampleRate) / 1_000_000) - line.placed);

import type { Luma } from './clarity';
import { textRuns } from './text-runs';

/** Edges of strokes that a row of text crosses in one of its characters, on average. */
const EDGES_A_CHARACTER = 3.1;
/** A word and the space after it. */
const CHARACTERS_A_WORD = 6;
/** Words a minute, silently, of plain prose: M. Brysbaert, “How many words do we read per minute?”, J. Memory and Language 109 (2019). */
const WORDS_A_MINUTE = 238;
/** Until the eye has found where to begin. */
const LOOK_US = 1_000_000;
const [LEAST_US, MOST_US] = [1_500_000, 20_000_000];

/** About how many characters a picture shows. */
export const characters = (picture: Luma): number =>
  Math.round(
    textRuns(picture).reduce((sum, { edges, heightPx }) => sum + edges / heightPx, 0) / EDGES_A_CHARACTER,
  );

/**
 * How long a picture must be seen for its text to be read.
 * @returns µs, 1.5 s … 20 s: nobody reads all of a full screen, and even a picture without text wants a look
 */
export function readingTimeUs(picture: Luma): number {
  const words = characters(picture) / CHARACTERS_A_WORD;
  const us = LOOK_US + (words * 60e6) / WORDS_A_MINUTE;
  return Math.round(Math.max(LEAST_US, Math.min(MOST_US, us)));
}

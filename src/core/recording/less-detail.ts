/** How much of a picture's detail is kept while the machine is fast enough or does not. */
export type Detail = { readonly hint: boolean; readonly scale: number };

const STEP = 0.75;
const LEAST = 0.5;
/** A larger share of captured frames dropped over two seconds means that the encoder is too slow. */
const BEHIND = 0.05;

export const isBehind = (arrived: number, dropped: number): boolean =>
  arrived > 0 && dropped / arrived > BEHIND;

/**
 * The next way to lower quality instead of dropping frames: without the text hint first, which costs most time for what it saves; then a smaller
 * picture, because bitrate barely relieves an encoder.
 * @returns null when there is none left
 */
export function lessDetail({ hint, scale }: Detail): Detail | null {
  if (hint) return { hint: false, scale };
  return scale * STEP >= LEAST ? { hint: false, scale: scale * STEP } : null;
}

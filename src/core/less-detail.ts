/** How much of a picture's detail is kept while the machine keeps up or does not. */
export type Detail = { readonly hint: boolean; readonly scale: number };

const STEP = 0.75;
const LEAST = 0.5;
/** So large a share of the arrived pictures lost over two seconds is behind, not unlucky. */
const BEHIND = 0.05;

export const isBehind = (arrived: number, dropped: number): boolean =>
  arrived > 0 && dropped / arrived > BEHIND;

/**
 * The next way to lose detail instead of frames: without the text hint first, which costs most time for what it saves; then a smaller
 * picture, because bitrate barely relieves an encoder.
 * @returns null when there is none left
 */
export function lessDetail({ hint, scale }: Detail): Detail | null {
  if (hint) return { hint: false, scale };
  return scale * STEP >= LEAST ? { hint: false, scale: scale * STEP } : null;
}

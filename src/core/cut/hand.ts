/** What the hand did in a take, as far as the captured program tells: clicks with their places, and keys. */
export type Hand = {
  /** `x`, `y`: shares of the screen's picture. */
  clicks: readonly { atUs: number; x: number; y: number }[];
  keysUs: readonly number[];
};

export const NO_HAND: Hand = { clicks: [], keysUs: [] };

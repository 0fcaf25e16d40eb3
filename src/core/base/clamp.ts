/** The nearest value between two bounds; the lower one where they cross. */
export const clamp = (value: number, least: number, most: number): number =>
  Math.max(least, Math.min(most, value));

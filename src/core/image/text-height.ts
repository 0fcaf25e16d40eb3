import type { Luma } from './clarity';
import { textRuns } from './text-runs';

/** Fewer lines than these say nothing about a picture. */
const LEAST_LINES = 3;

/**
 * How tall the text of a picture is.
 * @returns pixels from the top of a capital to its foot, or a little more where lines have tails; the median of all lines that were
 *   found, or null where there are none
 */
export function textHeightPx(picture: Luma): number | null {
  const lines = textRuns(picture)
    .map(({ heightPx }) => heightPx)
    .sort((a, b) => a - b);
  return lines.length < LEAST_LINES ? null : (lines[Math.floor(lines.length / 2)] ?? null);
}

/** Places in which a lesson is watched, and how many pixels its picture has there. */
export const VIEWERS = [
  { id: 'page', name: 'A small player in a page', width: 640, height: 360 },
  { id: 'player', name: 'A large player', width: 1280, height: 720 },
  { id: 'full', name: 'Full screen', width: 1920, height: 1080 },
  { id: 'phone', name: 'A phone, held across', width: 844, height: 390 },
] as const;

/**
 * The height at which text arrive. A player that is larger than the picture enlarges it, which makes text taller but not sharper.
 * @param textPx in the picture
 */
export function arrivingPx(
  textPx: number,
  picture: { width: number; height: number },
  viewer: { width: number; height: number },
): number {
  return textPx * Math.min(viewer.width / picture.width, viewer.height / picture.height);
}

/** Capitals under 7 pixels cannot be told apart; from 9 on they are read without effort. */
export function arrivalVerdict(px: number): 'good' | 'hard' | 'unreadable' {
  if (px >= 9) return 'good';
  return px >= 7 ? 'hard' : 'unreadable';
}

import { type Luma, textWindows } from './clarity';

/** Columns so wide are looked at alone: lines of text beside each other seldom share a height. */
const STRIP = 64;
/** A stroke's edge: so much difference between two neighbours in a row. */
const STROKE = 56;
/** A row of a strip belongs to text from so many edges on. */
const LEAST_EDGES = 3;
const [LOWEST, TALLEST] = [4, 96];
/** Fewer lines than these say nothing about a picture. */
const LEAST_LINES = 3;

/**
 * How tall the text of a picture are, found in it: rows in which strokes stand side by side, bounded by empty ones above and below.
 * @returns pixels from the top of a capital to its foot, or a little more where lines have tails; the median of all lines that were
 *   found, or null where there are none
 */
export function textHeightPx(picture: Luma): number | null {
  const { width, height, data } = picture;
  const strips = Math.ceil(width / STRIP);
  // Only where there is text at all: edges of windows and pictures have heights of their own.
  const text = new Uint8Array(strips * height);
  for (const at of textWindows(picture)) {
    const strip = Math.floor((at % width) / STRIP);
    const top = Math.floor(at / width);
    for (let y = Math.max(0, top - 4); y < Math.min(height, top + 12); y++) text[strip * height + y] = 1;
  }
  const lines: number[] = [];
  for (let strip = 0; strip < strips; strip++) {
    const [left, right] = [strip * STRIP, Math.min(width - 1, (strip + 1) * STRIP)];
    let run = 0;
    for (let y = 0; y <= height; y++) {
      let edges = 0;
      if (y < height && text[strip * height + y] === 1)
        for (let x = left; x < right; x++)
          if (Math.abs((data[y * width + x + 1] as number) - (data[y * width + x] as number)) >= STROKE)
            edges++;
      if (edges >= LEAST_EDGES) run++;
      else {
        if (run >= LOWEST && run <= TALLEST) lines.push(run);
        run = 0;
      }
    }
  }
  if (lines.length < LEAST_LINES) return null;
  lines.sort((a, b) => a - b);
  return lines[Math.floor(lines.length / 2)] ?? null;
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

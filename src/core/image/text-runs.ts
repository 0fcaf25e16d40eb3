import { type Luma, textWindows } from './clarity';

/** Columns so wide are looked at alone: lines of text beside each other seldom share a height. */
const STRIP = 64;
/** A stroke's edge: so much difference between two neighbours in a row. */
const STROKE = 56;
/** A row of a strip belongs to text from so many edges on. */
const LEAST_EDGES = 3;
const [LOWEST, TALLEST] = [4, 96];

/** A piece of a line of text, as wide as a strip. `edges`: of strokes, counted in all of its rows. */
export type TextRun = { heightPx: number; edges: number };

/** The text of a picture: rows in which strokes stand side by side, bounded by empty ones above and below. */
export function textRuns(picture: Luma): TextRun[] {
  const { width, height, data } = picture;
  const strips = Math.ceil(width / STRIP);
  // Only where there is text at all: edges of windows and pictures have heights of their own.
  const text = new Uint8Array(strips * height);
  for (const at of textWindows(picture)) {
    const strip = Math.floor((at % width) / STRIP);
    const top = Math.floor(at / width);
    for (let y = Math.max(0, top - 4); y < Math.min(height, top + 12); y++) text[strip * height + y] = 1;
  }
  const edgesIn = (left: number, right: number, y: number) => {
    let edges = 0;
    for (let x = left; x < right; x++)
      if (Math.abs((data[y * width + x + 1] as number) - (data[y * width + x] as number)) >= STROKE) edges++;
    return edges;
  };
  const runs: TextRun[] = [];
  for (let strip = 0; strip < strips; strip++) {
    const [left, right] = [strip * STRIP, Math.min(width - 1, (strip + 1) * STRIP)];
    let run: TextRun = { heightPx: 0, edges: 0 };
    for (let y = 0; y <= height; y++) {
      const edges = y < height && text[strip * height + y] === 1 ? edgesIn(left, right, y) : 0;
      if (edges >= LEAST_EDGES) run = { heightPx: run.heightPx + 1, edges: run.edges + edges };
      else {
        if (run.heightPx >= LOWEST && run.heightPx <= TALLEST) runs.push(run);
        run = { heightPx: 0, edges: 0 };
      }
    }
  }
  return runs;
}

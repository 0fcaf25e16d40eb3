/**
 * How clear the text of a picture still is beside its reference: SSIM (Wang, Bovik, Sheikh, Simoncelli, "Image quality assessment: from
 * error visibility to structural similarity", IEEE Transactions on Image Processing 13(4), 2004, equation 13) over windows of 8 × 8
 * pixels every 4, counted only where the reference shows text on flat ground. Averages over everything hide damaged text, because
 * most of a screen is empty.
 */
export type Luma = { width: number; height: number; data: Uint8Array };

export type TextClarity = {
  /** Mean over all windows with text; 1 is identical. */
  mean: number;
  /** The windows that are worse than 95 of 100. */
  p5: number;
  /** Windows with text; with 0 there is nothing to judge, and the others are 1. */
  windows: number;
};

const SIDE = 8;
const STRIDE = 4;
const AREA = SIDE * SIDE;
/** A pixel is an edge from this Sobel |gx| + |gy| on; a window has text from so many edge pixels on. */
const EDGE = 160;
const LEAST_EDGES = 10;
/** … and flat ground when so many of its pixels lie in one band of eight levels. */
const LEAST_FLAT = 20;
const BANDS = 32;
/** (K₁L)² and (K₂L)² with K₁ = 0.01, K₂ = 0.03, L = 255. */
const C1 = (0.01 * 255) ** 2;
const C2 = (0.03 * 255) ** 2;

/**
 * Windows of a picture that show text, as the offsets of their upper left pixels.
 * @throws RangeError when the data is not as long as width × height
 */
export function textWindows({ width, height, data }: Luma): Int32Array {
  if (data.length !== width * height) throw new RangeError('The luma plane is not as large as its picture.');
  // Edges, summed up over 4 × 4 cells: a window is two by two of them.
  const [across, down] = [Math.floor(width / STRIDE), Math.floor(height / STRIDE)];
  const edges = new Uint8Array(across * down);
  const right = Math.min(width - 1, across * STRIDE);
  for (let y = 1; y < Math.min(height - 1, down * STRIDE); y++) {
    const row = y * width;
    const cells = (y >> 2) * across;
    // Sobel's two kernels column by column: each column's sum and difference serve three pixels.
    let [sumLeft, sum] = [0, 0];
    let [stepLeft, step] = [0, 0];
    for (let x = -1; x < right; x++) {
      const at = row + x + 1;
      const above = data[at - width] as number;
      const below = data[at + width] as number;
      const sumRight = above + 2 * (data[at] as number) + below;
      const stepRight = below - above;
      const gx = sumRight - sumLeft;
      const gy = stepLeft + 2 * step + stepRight;
      if (x > 0 && (gx < 0 ? -gx : gx) + (gy < 0 ? -gy : gy) >= EDGE) (edges[cells + (x >> 2)] as number)++;
      sumLeft = sum;
      sum = sumRight;
      stepLeft = step;
      step = stepRight;
    }
  }
  const found: number[] = [];
  const bands = new Uint8Array(BANDS);
  for (let cy = 0; cy + 1 < down; cy++)
    for (let cx = 0; cx + 1 < across; cx++) {
      const cell = cy * across + cx;
      const count =
        (edges[cell] as number) +
        (edges[cell + 1] as number) +
        (edges[cell + across] as number) +
        (edges[cell + across + 1] as number);
      if (count < LEAST_EDGES) continue;
      const at = cy * STRIDE * width + cx * STRIDE;
      if (flattest(data, at, width, bands) >= LEAST_FLAT) found.push(at);
    }
  return Int32Array.from(found);
}

/** A window of a colour plane shows a coloured edge when its values differ by so much. */
const LEAST_COLOUR_RANGE = 32;

/**
 * Windows of a colour-difference plane that show coloured text or edges on flat ground, as `textWindows` gives those of luma.
 * @throws RangeError when the data is not as long as width × height
 */
export function colourWindows({ width, height, data }: Luma): Int32Array {
  if (data.length !== width * height)
    throw new RangeError('The colour plane is not as large as its picture.');
  // The range of each cell first: most of a screen is grey.
  const [across, down] = [Math.floor(width / STRIDE), Math.floor(height / STRIDE)];
  const least = new Uint8Array(across * down).fill(255);
  const most = new Uint8Array(across * down);
  for (let y = 0; y < down * STRIDE; y++) {
    const cells = (y >> 2) * across;
    for (let x = 0; x < across * STRIDE; x++) {
      const value = data[y * width + x] as number;
      const cell = cells + (x >> 2);
      if (value < (least[cell] as number)) least[cell] = value;
      if (value > (most[cell] as number)) most[cell] = value;
    }
  }
  const found: number[] = [];
  const bands = new Uint8Array(BANDS);
  for (let cy = 0; cy + 1 < down; cy++)
    for (let cx = 0; cx + 1 < across; cx++) {
      const cell = cy * across + cx;
      const range = fourOf(Math.max, most, cell, across) - fourOf(Math.min, least, cell, across);
      const at = cy * STRIDE * width + cx * STRIDE;
      if (range >= LEAST_COLOUR_RANGE && flattest(data, at, width, bands) >= LEAST_FLAT) found.push(at);
    }
  return Int32Array.from(found);
}

/** Something of the four cells of a window. */
const fourOf = (
  of: (a: number, b: number, c: number, d: number) => number,
  cells: Uint8Array,
  at: number,
  across: number,
): number =>
  of(
    cells[at] as number,
    cells[at + 1] as number,
    cells[at + across] as number,
    cells[at + across + 1] as number,
  );

/** Pixels of a window in the band of levels that has most of them. @param bands scratch */
function flattest(data: Uint8Array, at: number, width: number, bands: Uint8Array): number {
  bands.fill(0);
  let most = 0;
  for (let row = at; row < at + SIDE * width; row += width)
    for (let i = row; i < row + SIDE; i++) {
      const band = (data[i] as number) >> 3;
      const count = (bands[band] as number) + 1;
      bands[band] = count;
      if (count > most) most = count;
    }
  return most;
}

/**
 * Text clarity of one picture.
 * @param windows of the reference, where they are known already
 * @throws RangeError when the two are not of one size
 */
export function textClarity(reference: Luma, shown: Luma, windows = textWindows(reference)): TextClarity {
  const { width, height, data: a } = reference;
  if (shown.width !== width || shown.height !== height || shown.data.length !== a.length)
    throw new RangeError('Two pictures can only be compared in one size.');
  if (windows.length === 0) return { mean: 1, p5: 1, windows: 0 };
  const b = shown.data;
  // Sums over cells: each cell is in four windows.
  const across = Math.floor(width / STRIDE);
  const cells = across * Math.floor(height / STRIDE);
  const sums = new Float64Array(cells * SUMS);
  const known = new Uint8Array(cells);
  const sumUp = (cell: number) => {
    if (known[cell]) return;
    known[cell] = 1;
    let [sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0];
    const from = Math.floor(cell / across) * STRIDE * width + (cell % across) * STRIDE;
    for (let row = from; row < from + STRIDE * width; row += width)
      for (let i = row; i < row + STRIDE; i++) {
        const p = a[i] as number;
        const q = b[i] as number;
        sa += p;
        sb += q;
        saa += p * p;
        sbb += q * q;
        sab += p * q;
      }
    const at = cell * SUMS;
    sums[at] = sa;
    sums[at + 1] = sb;
    sums[at + 2] = saa;
    sums[at + 3] = sbb;
    sums[at + 4] = sab;
  };
  const values = new Float64Array(windows.length);
  windows.forEach((at, n) => {
    const cell = (Math.floor(at / width) >> 2) * across + ((at % width) >> 2);
    const below = cell + across;
    sumUp(cell);
    sumUp(cell + 1);
    sumUp(below);
    sumUp(below + 1);
    const mean = (k: number): number =>
      ((sums[cell * SUMS + k] as number) +
        (sums[(cell + 1) * SUMS + k] as number) +
        (sums[below * SUMS + k] as number) +
        (sums[(below + 1) * SUMS + k] as number)) /
      AREA;
    const [ma, mb, saa, sbb, sab] = [mean(0), mean(1), mean(2), mean(3), mean(4)];
    const va = saa - ma * ma;
    const vb = sbb - mb * mb;
    const cov = sab - ma * mb;
    values[n] = ((2 * ma * mb + C1) * (2 * cov + C2)) / ((ma * ma + mb * mb + C1) * (va + vb + C2));
  });
  const sum = values.reduce((total, value) => total + value, 0);
  values.sort();
  return {
    mean: sum / values.length,
    p5: values[Math.floor(values.length * 0.05)] ?? 1,
    windows: values.length,
  };
}

/** Of a cell: Σa, Σb, Σa², Σb², Σab. */
const SUMS = 5;

/** The clarity of a whole video, from some of its pictures. */
export type VideoClarity = { mean: number; worst: number; pictures: number };

/** Mean over the pictures that show text, and the worst of them. Null when none does. */
export function videoClarity(pictures: readonly TextClarity[]): VideoClarity | null {
  const judged = pictures.filter(({ windows }) => windows > 0);
  if (judged.length === 0) return null;
  return {
    mean: judged.reduce((sum, { mean }) => sum + mean, 0) / judged.length,
    worst: Math.min(...judged.map(({ mean }) => mean)),
    pictures: judged.length,
  };
}

/** From here on nobody sees a difference in the text: mean over the video, and its worst picture. */
export const CLEAR = { mean: 0.995, worst: 0.98 };

/** The same of the colour of text, as 4:2:0 carries it: coarser steps are seen later in it. */
export const COLOUR_CLEAR = { mean: 0.94, worst: 0.86 };

/** Whether neither text nor its colour lost anything that is seen; null is a video without text. */
export const isClear = (text: VideoClarity | null, colour: VideoClarity | null): boolean =>
  (!text || (text.mean >= CLEAR.mean && text.worst >= CLEAR.worst)) &&
  (!colour || (colour.mean >= COLOUR_CLEAR.mean && colour.worst >= COLOUR_CLEAR.worst));

/** The figure in words. */
export function clarityText({ mean, worst }: Pick<VideoClarity, 'mean' | 'worst'>): string {
  if (mean >= CLEAR.mean && worst >= CLEAR.worst) return 'clear';
  if (mean >= 0.98 && worst >= 0.94) return 'readable, a little soft';
  if (mean >= 0.93) return 'soft';
  return 'hard to read';
}

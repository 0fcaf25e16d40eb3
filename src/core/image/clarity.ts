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
export function textWindows(picture: Luma): Int32Array {
  const { width, height, data } = picture;
  if (data.length !== width * height) throw new RangeError('The luma plane is not as large as its picture.');
  const [across, down] = cellsOf(picture);
  const edges = edgesOfCells(picture);
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
      if (isOnFlatGround(data, at, width, bands)) found.push(at);
    }
  return Int32Array.from(found);
}

/** How many whole cells of 4 × 4 pixels there are in a row and in a column: a window is two by two of them. */
const cellsOf = ({ width, height }: Luma): [number, number] => [
  Math.floor(width / STRIDE),
  Math.floor(height / STRIDE),
];

/** Edge pixels of every cell; those at the border of the picture have no neighbours to be steeper than. */
function edgesOfCells(picture: Luma): Uint8Array {
  const { width, height, data } = picture;
  const [across, down] = cellsOf(picture);
  const bands = bandsOfCells(picture);
  const edges = new Uint8Array(across * down);
  for (let cy = 0; cy < down; cy++)
    for (let cx = 0; cx < across; cx++) {
      const cell = cy * across + cx;
      const band = bands[cell];
      // Sobel's sum is 90 at most between pixels that are sixteen levels apart.
      if (band !== 0 && band === bands[cell - 1] && band === bands[cell + 1]) continue;
      const from = Math.max(1, cx * STRIDE);
      const to = Math.min(width - 1, cx * STRIDE + STRIDE);
      let count = 0;
      for (let y = Math.max(1, cy * STRIDE); y < Math.min(height - 1, cy * STRIDE + STRIDE); y++)
        for (let at = y * width + from; at < y * width + to; at++) {
          const above = at - width;
          const below = at + width;
          const rising = (data[below + 1] as number) - (data[above - 1] as number);
          const falling = (data[above + 1] as number) - (data[below - 1] as number);
          const gx = rising + falling + 2 * ((data[at + 1] as number) - (data[at - 1] as number));
          const gy = rising - falling + 2 * ((data[below] as number) - (data[above] as number));
          if (Math.abs(gx) + Math.abs(gy) >= EDGE) count++;
        }
      edges[cell] = count;
    }
  return edges;
}

/**
 * Most of a screen is plain, and need not be looked at pixel by pixel. The band of sixteen levels that all pixels of a cell are in, and those
 * right above and below it; 0 where they are not, at the upper and lower border, and everywhere when rows do not begin with whole words.
 */
function bandsOfCells(plane: Luma): Uint8Array {
  const { width, data } = plane;
  const [across, down] = cellsOf(plane);
  const found = new Uint8Array(across * down);
  if (data.byteOffset % STRIDE !== 0 || width % STRIDE !== 0) return found;
  const bands = bandsOfWords(new Int32Array(data.buffer, data.byteOffset, data.length / STRIDE));
  for (let cy = 1; cy + 1 < down; cy++)
    for (let cx = 0; cx < across; cx++) {
      let at = (cy * STRIDE - 1) * across + cx;
      const band = bands[at] as number;
      const end = at + (STRIDE + 1) * across;
      while (at < end && bands[at + across] === band) at += across;
      if (at === end) found[cy * across + cx] = band;
    }
  return found;
}

/**
 * The band that four pixels are in, 0 where they are not in one. Bands begin at 8, 24, … so that black, grey and white of studio range (16,
 * 128, 235) with a little noise are in one each. The lowest eight levels would share one with the highest: that is 0, too.
 */
function bandsOfWords(words: Int32Array): Uint8Array {
  const bands = new Uint8Array(words.length);
  for (let at = 0; at < words.length; at++) {
    const word = words[at] as number;
    // 8 is added to each of the four without a carry into the next, and their lower bits are left out.
    const all = (((word & 0x7f7f7f7f) + 0x08080808) ^ (word & 0x80808080)) & 0xf0f0f0f0;
    const band = all & 0xf0;
    if (all === Math.imul(band, 0x01010101)) bands[at] = band;
  }
  return bands;
}

/** A window of a colour plane shows a coloured edge when its values differ by so much. */
const LEAST_COLOUR_RANGE = 32;

/**
 * Windows of a colour-difference plane that show coloured text or edges on flat ground, as `textWindows` gives those of luma.
 * @throws RangeError when the data is not as long as width × height
 */
export function colourWindows(plane: Luma): Int32Array {
  const { width, height, data } = plane;
  if (data.length !== width * height)
    throw new RangeError('The colour plane is not as large as its picture.');
  const [across, down] = cellsOf(plane);
  const plain = bandsOfCells(plane);
  const found: number[] = [];
  const bands = new Uint8Array(BANDS);
  for (let cy = 0; cy + 1 < down; cy++)
    for (let cx = 0; cx + 1 < across; cx++) {
      const at = cy * STRIDE * width + cx * STRIDE;
      if (isInOneBand(plain, cy * across + cx, across)) continue;
      if (rangeOf(data, at, width) >= LEAST_COLOUR_RANGE && isOnFlatGround(data, at, width, bands))
        found.push(at);
    }
  return Int32Array.from(found);
}

/** Whether all four cells of a window are known to be in the same band. */
function isInOneBand(bands: Uint8Array, cell: number, across: number): boolean {
  const band = bands[cell];
  return (
    band !== 0 &&
    band === bands[cell + 1] &&
    band === bands[cell + across] &&
    band === bands[cell + across + 1]
  );
}

/** How far apart the values of a window are. */
function rangeOf(data: Uint8Array, at: number, width: number): number {
  let [least, most] = [255, 0];
  for (let row = at; row < at + SIDE * width; row += width)
    for (let i = row; i < row + SIDE; i++) {
      const value = data[i] as number;
      if (value < least) least = value;
      if (value > most) most = value;
    }
  return most - least;
}

/** Whether enough pixels of a window are in one band of levels. @param bands scratch */
function isOnFlatGround(data: Uint8Array, at: number, width: number, bands: Uint8Array): boolean {
  bands.fill(0);
  for (let row = at; row < at + SIDE * width; row += width)
    for (let i = row; i < row + SIDE; i++) {
      const band = (data[i] as number) >> 3;
      const count = (bands[band] as number) + 1;
      if (count >= LEAST_FLAT) return true;
      bands[band] = count;
    }
  return false;
}

/**
 * Text clarity of one picture.
 * @param windows of the reference, where they are known already
 * @throws RangeError when the two are not of one size
 */
export function textClarity(reference: Luma, shown: Luma, windows = textWindows(reference)): TextClarity {
  const { width, height, data } = reference;
  if (shown.width !== width || shown.height !== height || shown.data.length !== data.length)
    throw new RangeError('Two pictures can only be compared in one size.');
  if (windows.length === 0) return { mean: 1, p5: 1, windows: 0 };
  const values = new Float64Array(windows.length);
  const across = Math.floor(width / STRIDE);
  const cells = openCells(reference, shown);
  let total = 0;
  for (let n = 0; n < windows.length; n++) {
    const at = windows[n] as number;
    const cell = (Math.floor(at / width) >> 2) * across + ((at % width) >> 2);
    const value = ssim(cells, cell, cell + across);
    values[n] = value;
    total += value;
  }
  values.sort();
  return {
    mean: total / values.length,
    p5: values[Math.floor(values.length * 0.05)] ?? 1,
    windows: values.length,
  };
}

/** Of a cell: Σa, Σb, Σa², Σb², Σab. */
const SUMS = 5;

/** Sums of cells, which are made when they are asked for: each cell is in four windows. */
type Cells = { sums: Int32Array; known: Uint8Array; width: number; a: Uint8Array; b: Uint8Array };

function openCells(reference: Luma, shown: Luma): Cells {
  const [across, down] = cellsOf(reference);
  const count = across * down;
  return {
    ...{ sums: new Int32Array(count * SUMS), known: new Uint8Array(count) },
    ...{ width: reference.width, a: reference.data, b: shown.data },
  };
}

function sumUp({ sums, known, width, a, b }: Cells, cell: number): void {
  known[cell] = 1;
  const across = Math.floor(width / STRIDE);
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
}

/** Of the window whose upper and lower two cells begin there. */
function ssim(cells: Cells, upper: number, lower: number): number {
  const { sums, known } = cells;
  for (let cell = upper; cell <= upper + 1; cell++) if (!known[cell]) sumUp(cells, cell);
  for (let cell = lower; cell <= lower + 1; cell++) if (!known[cell]) sumUp(cells, cell);
  const ma = meanOf(sums, upper, lower, 0);
  const mb = meanOf(sums, upper, lower, 1);
  const va = meanOf(sums, upper, lower, 2) - ma * ma;
  const vb = meanOf(sums, upper, lower, 3) - mb * mb;
  const cov = meanOf(sums, upper, lower, 4) - ma * mb;
  return ((2 * ma * mb + C1) * (2 * cov + C2)) / ((ma * ma + mb * mb + C1) * (va + vb + C2));
}

const meanOf = (sums: Int32Array, upper: number, lower: number, which: number): number =>
  ((sums[upper * SUMS + which] as number) +
    (sums[(upper + 1) * SUMS + which] as number) +
    (sums[lower * SUMS + which] as number) +
    (sums[(lower + 1) * SUMS + which] as number)) /
  AREA;

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

import { nearestEven } from '@/core/base/sizes';
/**
 * The part of the test card that machines read: a row of black and white cells with the frame's number, a check, and a
 * patch that flashes. Placed in shares of the picture, so that it is read at any size.
 */
import type { Box } from './i420';

export const CARD_RATE = { num: 30, den: 1 };
/** A flash lasts this many frames; the beep begins with its first. */
export const FLASH_FRAMES = 3;
/** Every second second: far enough apart that a late beep cannot be taken for the next one. */
export const FLASH_EVERY_FRAMES = 60;
export const BEEP_MS = 100;
export const BEEP_HZ = 1000;

const BITS = 20;
const CHECK_BITS = 4;
/** A white and a black cell first: they tell the reader what is white here. */
const CELLS = 2 + BITS + CHECK_BITS;
const CODE = { x: 0.1, y: 0.05, width: 0.8, height: 0.07 };
const FLASH = { x: 0.88, y: 0.42, width: 0.1, height: 0.18 };

/** The number of the frame that stands at a time of the card. Times are whole microseconds, which are rounded: one more is on its frame for sure. */
export const cardFrameAt = (ms: number): number =>
  Math.floor(((ms * 1000 + 1) * CARD_RATE.num) / (CARD_RATE.den * 1e6));

type Area = { width: number; height: number };
const inPixels = (part: Box, { width, height }: Area): Box => ({
  x: nearestEven(part.x * width),
  y: nearestEven(part.y * height),
  width: nearestEven(part.width * width),
  height: nearestEven(part.height * height),
});

/** Sum of the number's nibbles: one wrong cell never goes unnoticed. */
const checkOf = (n: number) => {
  let sum = 5;
  for (let rest = n; rest > 0; rest >>>= 4) sum += rest & 15;
  return sum & 15;
};

export const flashes = (frame: number): boolean => frame % FLASH_EVERY_FRAMES < FLASH_FRAMES;
export const flashBox = (area: Area): Box => inPixels(FLASH, area);

/** The cells of a frame's number, true for white, each with its place. */
export function codeCells(frame: number, area: Area): { box: Box; white: boolean }[] {
  const number = frame & (2 ** BITS - 1);
  const bits = (number * 2 ** CHECK_BITS + checkOf(number)) >>> 0;
  const row = inPixels(CODE, area);
  return Array.from({ length: CELLS }, (_, i) => {
    const white = i === 0 || (i > 1 && ((bits >>> (CELLS - 1 - i)) & 1) === 1);
    const x = row.x + nearestEven((row.width * i) / CELLS);
    return { box: { ...row, x, width: row.x + nearestEven((row.width * (i + 1)) / CELLS) - x }, white };
  });
}

/** Mean luma of the middle half of a box. */
function mean(luma: Uint8Array, stride: number, box: Box): number {
  let [sum, count] = [0, 0];
  for (let y = Math.ceil(box.y + box.height * 0.25); y < box.y + box.height * 0.75; y++)
    for (let x = Math.ceil(box.x + box.width * 0.25); x < box.x + box.width * 0.75; x++) {
      sum += luma[y * stride + x] ?? 0;
      count++;
    }
  return sum / count;
}

/**
 * Reads a picture of the test card.
 * @param luma one byte a pixel, rows of `width`
 * @returns the frame's number (null when the cells cannot be read) and whether the patch flashes
 */
export function readCard(luma: Uint8Array, area: Area): { frame: number | null; flash: boolean } {
  const cells = codeCells(0, area).map(({ box }) => mean(luma, area.width, box));
  const [white = 0, black = 0] = cells;
  const middle = (white + black) / 2;
  const flash = mean(luma, area.width, flashBox(area)) > middle;
  if (white - black < 60) return { frame: null, flash };
  const bits = cells.slice(2).reduce((all, cell) => all * 2 + (cell > middle ? 1 : 0), 0);
  const number = Math.floor(bits / 2 ** CHECK_BITS);
  return { frame: checkOf(number) === (bits & 15) ? number : null, flash };
}

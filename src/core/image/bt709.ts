/** ITU-R BT.709, item 3: the weights of red, green and blue in the luma signal. */
const [KR, KG, KB] = [0.2126, 0.7152, 0.0722];

/**
 * Y′CbCr of a colour: ITU-R BT.709 items 3 and 4, limited range, 8 bits.
 * @param red, green, blue 0 … 255
 * @returns whole numbers: luma 16 … 235, colour differences 16 … 240
 */
export function yuvOf(red: number, green: number, blue: number): [y: number, u: number, v: number] {
  const luma = KR * red + KG * green + KB * blue;
  return [
    Math.round(16 + (219 * luma) / 255),
    Math.round(128 + (224 * (blue - luma)) / (255 * 2 * (1 - KB))),
    Math.round(128 + (224 * (red - luma)) / (255 * 2 * (1 - KR))),
  ];
}

/** Red, green and blue (0 … 255) of "#rrggbb". */
export function rgbOfHex(hex: string): [red: number, green: number, blue: number] {
  const value = Number.parseInt(hex.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}

/** Y′CbCr of "#rrggbb". */
export const yuvOfHex = (hex: string): [y: number, u: number, v: number] => yuvOf(...rgbOfHex(hex));

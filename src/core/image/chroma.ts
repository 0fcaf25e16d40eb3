import type { Size } from '../base/sizes';

/** ITU-R BT.709: luma weights of red and blue. */
const [KR, KB] = [0.2126, 0.0722];

/**
 * What 4:2:0 leaves of a picture: colour differences are averaged over two by two pixels and spread again, brightness stays. Nothing is
 * encoded, so this is the least that any codec loses with it.
 * @param data red, green, blue, alpha of each pixel
 * @returns the picture afterwards, and the blue colour difference (0…255) before and after
 * @throws RangeError when the data is not as long as its size
 */
export function halveColour(
  data: Uint8ClampedArray,
  { width, height }: Size,
): { rgba: Uint8ClampedArray<ArrayBuffer>; chroma: Uint8Array; halvedChroma: Uint8Array } {
  if (data.length !== width * height * 4)
    throw new RangeError('The pixels are not as many as the picture has.');
  const luma = new Float32Array(width * height);
  const blue = new Float32Array(width * height);
  const red = new Float32Array(width * height);
  for (let i = 0; i < width * height; i++) {
    const [r = 0, g = 0, b = 0] = [data[4 * i], data[4 * i + 1], data[4 * i + 2]];
    const y = KR * r + (1 - KR - KB) * g + KB * b;
    luma[i] = y;
    blue[i] = (b - y) / (2 * (1 - KB));
    red[i] = (r - y) / (2 * (1 - KR));
  }
  const rgba = new Uint8ClampedArray(data.length);
  const [chroma, halvedChroma] = [new Uint8Array(width * height), new Uint8Array(width * height)];
  const mean = (plane: Float32Array, x: number, y: number): number => {
    const [left, top] = [x & ~1, y & ~1];
    let [sum, count] = [0, 0];
    for (const at of [
      top * width + left,
      top * width + left + 1,
      (top + 1) * width + left,
      (top + 1) * width + left + 1,
    ])
      if (at < plane.length) [sum, count] = [sum + (plane[at] as number), count + 1];
    return sum / count;
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const [cb, cr] = [mean(blue, x, y), mean(red, x, y)];
      const light = luma[i] as number;
      const r = light + 2 * (1 - KR) * cr;
      const b = light + 2 * (1 - KB) * cb;
      rgba[4 * i] = r;
      rgba[4 * i + 1] = (light - KR * r - KB * b) / (1 - KR - KB);
      rgba[4 * i + 2] = b;
      rgba[4 * i + 3] = 255;
      chroma[i] = Math.round((blue[i] as number) + 128);
      halvedChroma[i] = Math.round(cb + 128);
    }
  return { rgba, chroma, halvedChroma };
}

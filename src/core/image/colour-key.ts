import { z } from 'zod';
import { clamp } from '../base/clamp';
import { rgbOfHex, yuvOf } from './bt709';

/** Chroma key: makes a plain background transparent. All shares are of the largest distance of two colours. */
export const ColourKey = z.object({
  colour: z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour as #rrggbb'),
  /** Up to this distance from the key colour everything is transparent. */
  tolerance: z.number().min(0.01).max(0.5),
  /** So much further it fades in. */
  softness: z.number().min(0).max(0.5),
  /** Spill suppression: how much of the background's light is removed from the foreground. */
  spill: z.number().min(0).max(1),
});
export type ColourKey = z.infer<typeof ColourKey>;

/** Colours whose difference to grey points within 30° of the wall's have its light on them. */
const TAN = Math.tan(Math.PI / 6);

type Wall = { u: number; v: number; towards: { u: number; v: number } };
function wallOf({ colour }: Pick<ColourKey, 'colour'>): Wall {
  const [, u, v] = yuvOf(...rgbOfHex(colour));
  const length = Math.hypot(u - 128, v - 128) || 1;
  return { u, v, towards: { u: (u - 128) / length, v: (v - 128) / length } };
}

/** Distance of two colours without their brightness: 0 the same, 1 as far as can be. */
const distance = (u: number, v: number, wall: Wall) =>
  Math.sqrt(((u - wall.u) ** 2 + (v - wall.v) ** 2) / (2 * 255 * 255));

/** How far a colour is from grey, by the same measure. */
const saturation = (wall: Wall) => distance(128, 128, wall);

/** A wall that is greyer than this is not told from hair, shirts and screens. */
const LEAST_SATURATION = 0.04;
export const isGreyWall = (colour: string): boolean => saturation(wallOf({ colour })) < LEAST_SATURATION;

/** A key for a wall of this colour to begin with: it ends well before grey, so that nothing without colour is taken. */
export function firstKey(colour: string): ColourKey {
  const far = saturation(wallOf({ colour }));
  const share = (part: number) => Math.round(1000 * part * far) / 1000;
  return {
    colour,
    tolerance: clamp(share(0.4), 0.01, 0.5),
    softness: clamp(share(0.25), 0, 0.5),
    spill: 0.6,
  };
}

/** How opaque (0 … 1) a colour is that lies so far from the wall's. */
const opacity = (far: number, { tolerance, softness }: ColourKey) =>
  softness > 0.0001 ? Math.min(1, Math.max(0, (far - tolerance) / softness)) : far > tolerance ? 1 : 0;

/** Colour differences in steps of 8 bits, from red, green and blue without rounding. */
const uOf = (b: number, luma: number) => 128 + ((b - luma) * 224) / (255 * 1.8556);
const vOf = (r: number, luma: number) => 128 + ((r - luma) * 224) / (255 * 1.5748);
const lumaOf = (r: number, g: number, b: number) => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** What is taken from a colour difference, towards the wall's colour; in steps of 8 bits. */
function spillOf(u: number, v: number, { towards }: Wall, spill: number): number {
  const along = (u - 128) * towards.u + (v - 128) * towards.v;
  const across = Math.abs((v - 128) * towards.u - (u - 128) * towards.v);
  return spill * Math.max(0, along - across * TAN);
}

/** Takes so much of the wall's colour from a pixel; its brightness stays. ITU-R BT.709, item 3, solved for red, green and blue. */
function takeSpill(
  pixels: Uint8ClampedArray | Float32Array,
  p: number,
  { towards }: Wall,
  less: number,
): void {
  const [cb, cr] = [(less * towards.u * 255) / 224, (less * towards.v * 255) / 224];
  pixels[p] = (pixels[p] as number) - cr * 1.5748;
  pixels[p + 1] = (pixels[p + 1] as number) + cb * 0.1873 + cr * 0.4681;
  pixels[p + 2] = (pixels[p + 2] as number) - cb * 1.8556;
}

/**
 * Makes the wall transparent, in place. The opacity of a pixel is that of the mean distance of the three by three around it, so
 * that single noisy pixels make no holes.
 * @param pixels red, green, blue, alpha of each pixel, at the size in which they are shown
 * @throws RangeError when the pixels are not as many as the size says
 */
export function keyPixels(pixels: Uint8ClampedArray, width: number, height: number, key: ColourKey): void {
  if (pixels.length !== width * height * 4)
    throw new RangeError('The pixels are not as many as the picture has.');
  const wall = wallOf(key);
  const far = new Float32Array(width * height);
  for (let i = 0, p = 0; i < far.length; i++, p += 4) {
    const [r, g, b] = [pixels[p] as number, pixels[p + 1] as number, pixels[p + 2] as number];
    const luma = lumaOf(r, g, b);
    const [u, v] = [uOf(b, luma), vOf(r, luma)];
    far[i] = distance(u, v, wall);
    const less = spillOf(u, v, wall, key.spill);
    if (less > 0) takeSpill(pixels, p, wall, less);
  }
  for (let y = 0, i = 0; y < height; y++) {
    const [above, below] = [y > 0 ? -width : 0, y < height - 1 ? width : 0];
    for (let x = 0; x < width; x++, i++) {
      const [left, right] = [x > 0 ? -1 : 0, x < width - 1 ? 1 : 0];
      let sum = 0;
      for (const row of [i + above, i, i + below])
        sum += (far[row + left] as number) + (far[row] as number) + (far[row + right] as number);
      pixels[i * 4 + 3] = Math.round(255 * opacity(sum / 9, key));
    }
  }
}

/**
 * The key for pictures that are kept as Y′CbCr of 8 bits: for each pair of colour differences, `u << 8 | v`, the opacity and the
 * differences without the wall's light.
 */
export function keyTables(key: ColourKey): { opacity: Uint8Array; u: Uint8Array; v: Uint8Array } {
  const wall = wallOf(key);
  const tables = {
    opacity: new Uint8Array(65_536),
    u: new Uint8Array(65_536),
    v: new Uint8Array(65_536),
  };
  for (let u = 0; u < 256; u++)
    for (let v = 0; v < 256; v++) {
      const at = (u << 8) | v;
      const less = spillOf(u, v, wall, key.spill);
      tables.opacity[at] = Math.round(255 * opacity(distance(u, v, wall), key));
      tables.u[at] = Math.round(u - less * wall.towards.u);
      tables.v[at] = Math.round(v - less * wall.towards.v);
    }
  return tables;
}

const CUBE = 33;

/**
 * The same spill for a filter that maps colours by a table: a cube of 33 colours a side in the text format that colour graders
 * share, red changing fastest. The function is piecewise linear, so that interpolation between the corners keeps it.
 */
export function spillCube(key: ColourKey): string {
  const wall = wallOf(key);
  const lines = [`LUT_3D_SIZE ${CUBE}`];
  const level = (step: number) => (step * 255) / (CUBE - 1);
  const pixel = new Float32Array(3);
  for (let b = 0; b < CUBE; b++)
    for (let g = 0; g < CUBE; g++)
      for (let r = 0; r < CUBE; r++) {
        pixel.set([level(r), level(g), level(b)]);
        const luma = lumaOf(level(r), level(g), level(b));
        takeSpill(pixel, 0, wall, spillOf(uOf(level(b), luma), vOf(level(r), luma), wall, key.spill));
        lines.push([...pixel].map((value) => (Math.min(255, Math.max(0, value)) / 255).toFixed(5)).join(' '));
      }
  return `${lines.join('\n')}\n`;
}

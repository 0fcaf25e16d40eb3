import type { Size } from '../base/sizes';
import { keyTables } from '../image/colour-key';
import type { CameraBox } from './layout';
import { roundedMask } from './masks';

/** What laying a camera over pictures of one size needs: made once, used for each picture. */
export type Overlay = {
  readonly box: CameraBox;
  /** Opacity of each pixel of the box by its shape. */
  readonly mask: Uint8Array;
  /** Where in the camera each column and row of the box lies: whole pixel, and the share of the next (0 … 256). */
  readonly columns: Taps;
  readonly rows: Taps;
  readonly key: ReturnType<typeof keyTables> | null;
};
type Taps = { at: Int32Array; share: Int32Array };

/** Bilinear taps: pixel n of `length` lies at its middle in the crop. */
function taps(from: number, crop: number, length: number, most: number, turned: boolean): Taps {
  const [at, share] = [new Int32Array(length), new Int32Array(length)];
  for (let n = 0; n < length; n++) {
    const place = from + ((n + 0.5) * crop) / length - 0.5;
    const inside = Math.min(most - 1, Math.max(0, place));
    const whole = Math.min(Math.max(0, most - 2), Math.floor(inside));
    const to = turned ? length - 1 - n : n;
    at[to] = whole;
    share[to] = Math.round((inside - whole) * 256);
  }
  return { at, share };
}

/**
 * @param camera size of the camera's pictures
 * @param box by `placeCamera`
 */
export function overlayOf(camera: Size, box: CameraBox, mirror: boolean): Overlay {
  const { at, crop, radius, key } = box;
  return {
    box,
    mask: roundedMask(at.width, at.height, radius),
    columns: taps(crop.x, crop.width, at.width, camera.width, mirror),
    rows: taps(crop.y, crop.height, at.height, camera.height, false),
    key: key && keyTables(key),
  };
}

/** Two opacities of 0 … 255, multiplied, as 0 … 256: whole numbers and shifts are several times as quick as divisions. */
const upTo256 = (product: number): number => (product + 254 + (product >> 7)) >> 8;

/**
 * Lays a camera over a screen, in place: scaled, keyed, with rounded corners. Both are I420 without padding, limited
 * range BT.709. Colours are taken from the nearest sample, brightness between the nearest four.
 * @param screen planes of the picture that is changed
 * @param camera planes of the camera's picture
 */
export function layOver(
  screen: Uint8Array,
  size: Size,
  camera: Uint8Array,
  cameraSize: Size,
  { box, mask, columns, rows, key }: Overlay,
): void {
  const { x: left, y: top, width, height } = box.at;
  const uAt = size.width * size.height;
  const cameraU = cameraSize.width * cameraSize.height;
  const [columnAt, columnShare] = [columns.at, columns.share];
  /** Opacity of each two by two pixels by their colour. */
  const own = new Uint8Array(width / 2).fill(255);
  // Plain loops over rows: this runs for every picture, and pairs and closures cost several times as much here.
  for (let y = 0; y < height; y += 2) {
    const from = cameraU + ((rows.at[y] as number) >> 1) * (cameraSize.width >> 1);
    const to = uAt + ((top + y) >> 1) * (size.width >> 1) + (left >> 1);
    for (let i = 0; i < own.length; i++) {
      const k = from + ((columnAt[2 * i] as number) >> 1);
      let u = camera[k] as number;
      let v = camera[k + (cameraU >> 2)] as number;
      if (key) {
        const colour = (u << 8) | v;
        own[i] = key.opacity[colour] as number;
        u = key.u[colour] as number;
        v = key.v[colour] as number;
      }
      const opaque = upTo256((own[i] as number) * (mask[(y + 1) * width + 2 * i + 1] as number));
      if (opaque === 0) continue;
      const t = to + i;
      const underU = screen[t] as number;
      const underV = screen[t + (uAt >> 2)] as number;
      screen[t] = underU + (((u - underU) * opaque + 128) >> 8);
      screen[t + (uAt >> 2)] = underV + (((v - underV) * opaque + 128) >> 8);
    }
    for (let row = y; row < y + 2; row++) {
      const down = rows.share[row] as number;
      const line = (rows.at[row] as number) * cameraSize.width;
      const target = (top + row) * size.width + left;
      for (let x = 0; x < width; x++) {
        const opaque = upTo256((own[x >> 1] as number) * (mask[row * width + x] as number));
        if (opaque === 0) continue;
        const k = line + (columnAt[x] as number);
        const right = columnShare[x] as number;
        const a = camera[k] as number;
        const b = camera[k + cameraSize.width] as number;
        const upper = (a << 8) + ((camera[k + 1] as number) - a) * right;
        const lower = (b << 8) + ((camera[k + cameraSize.width + 1] as number) - b) * right;
        const luma = ((upper << 8) + (lower - upper) * down + 32_768) >> 16;
        const under = screen[target + x] as number;
        screen[target + x] = under + (((luma - under) * opaque + 128) >> 8);
      }
    }
  }
}

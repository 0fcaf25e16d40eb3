import { keyTables } from './colour-key';
import type { CameraBox } from './layout';
import { roundedMask } from './render/picture-graph';
import type { Size } from './sizes';

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

/**
 * Lays a camera over a screen, in place: scaled, its wall taken away, its corners rounded. Both are I420 without padding, limited
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
  const { at } = box;
  const [stride, half] = [size.width, size.width / 2];
  const [cameraStride, cameraHalf] = [cameraSize.width, cameraSize.width / 2];
  const uAt = size.width * size.height;
  const vAt = uAt * 1.25;
  const cameraU = cameraSize.width * cameraSize.height;
  const cameraV = cameraU * 1.25;
  for (let y = 0; y < at.height; y += 2) {
    const chromaRow = ((rows.at[y] as number) >> 1) * cameraHalf;
    const intoChroma = ((at.y + y) >> 1) * half + (at.x >> 1);
    for (let x = 0; x < at.width; x += 2) {
      const first = y * at.width + x;
      const shape = mask[first + at.width + 1] as number;
      if (shape === 0 && mask[first] === 0) continue;
      const from = chromaRow + ((columns.at[x] as number) >> 1);
      const [u, v] = [camera[cameraU + from] as number, camera[cameraV + from] as number];
      const colour = (u << 8) | v;
      const own = key ? (key.opacity[colour] as number) : 255;
      if (own === 0) continue;
      const opaque = ((own * shape + 127) / 255) | 0;
      const c = intoChroma + (x >> 1);
      const [tu, tv] = [key ? (key.u[colour] as number) : u, key ? (key.v[colour] as number) : v];
      const [su, sv] = [screen[uAt + c] as number, screen[vAt + c] as number];
      screen[uAt + c] = su + ((tu - su) * opaque) / 255 + 0.5;
      screen[vAt + c] = sv + ((tv - sv) * opaque) / 255 + 0.5;
      for (let row = 0; row < 2; row++) {
        const [line, down] = [rows.at[y + row] as number, rows.share[y + row] as number];
        for (let column = 0; column < 2; column++) {
          const alpha = ((own * (mask[first + row * at.width + column] as number) + 127) / 255) | 0;
          const k = line * cameraStride + (columns.at[x + column] as number);
          const right = columns.share[x + column] as number;
          const upper = (camera[k] as number) * (256 - right) + (camera[k + 1] as number) * right;
          const lower =
            (camera[k + cameraStride] as number) * (256 - right) +
            (camera[k + cameraStride + 1] as number) * right;
          const luma = (upper * (256 - down) + lower * down) / 65_536;
          const t = (at.y + y + row) * stride + at.x + x + column;
          const under = screen[t] as number;
          screen[t] = under + ((luma - under) * alpha) / 255 + 0.5;
        }
      }
    }
  }
}

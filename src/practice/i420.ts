/**
 * Pictures in I420, the layout that captures deliver and encoders take: a luma plane, then two chroma planes at half the
 * width and height, one after the other in one buffer. All places and sizes are even, so that chroma never straddles.
 */
export type I420 = {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array<ArrayBuffer>;
};
/** A picture with an opacity for each luma pixel (0…255). */
export type Sprite = I420 & { readonly alpha: Uint8Array | null };
export type Box = { readonly x: number; readonly y: number; readonly width: number; readonly height: number };

export const newPicture = (width: number, height: number): I420 => ({
  width,
  height,
  data: new Uint8Array((width * height * 3) / 2),
});

/** The part two boxes share; width or height 0 when they are apart. */
export function overlap(a: Box, b: Box): Box {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  return {
    x,
    y,
    width: Math.max(0, Math.min(a.x + a.width, b.x + b.width) - x),
    height: Math.max(0, Math.min(a.y + a.height, b.y + b.height) - y),
  };
}

/** The three planes of a picture: where each begins, its row length, and how much it is subsampled. */
function planes({ width, height }: { width: number; height: number }) {
  const luma = width * height;
  return [
    { offset: 0, stride: width, half: 1 },
    { offset: luma, stride: width / 2, half: 2 },
    { offset: luma + luma / 4, stride: width / 2, half: 2 },
  ] as const;
}

/** Fills a box with one colour. */
export function fill(target: I420, box: Box, colour: readonly [number, number, number]): void {
  planes(target).forEach(({ offset, stride, half }, p) => {
    const [x, y, w, h] = [box.x / half, box.y / half, box.width / half, box.height / half];
    for (let row = 0; row < h; row++) {
      const at = offset + (y + row) * stride + x;
      target.data.fill(colour[p] ?? 0, at, at + w);
    }
  });
}

/**
 * Draws the part of a sprite that lies in `clip`.
 * @param at where the sprite's first pixel would lie in the target (may be outside)
 * @param clip target pixels that may change; must lie inside the target
 */
export function draw(target: I420, sprite: Sprite, at: { x: number; y: number }, clip: Box): void {
  const box = overlap({ ...at, width: sprite.width, height: sprite.height }, clip);
  if (box.width === 0 || box.height === 0) return;
  const [into, from] = [planes(target), planes(sprite)];
  for (let p = 0; p < 3; p++) {
    const [t, s] = [into[p], from[p]];
    if (!t || !s) continue;
    const width = box.width / t.half;
    for (let row = 0; row < box.height / t.half; row++) {
      const targetRow = t.offset + (box.y / t.half + row) * t.stride + box.x / t.half;
      const spriteX = (box.x - at.x) / s.half;
      const spriteY = (box.y - at.y) / s.half + row;
      const spriteRow = s.offset + spriteY * s.stride + spriteX;
      if (!sprite.alpha) {
        target.data.set(sprite.data.subarray(spriteRow, spriteRow + width), targetRow);
        continue;
      }
      for (let i = 0; i < width; i++) {
        const a = sprite.alpha[spriteY * s.half * sprite.width + (spriteX + i) * s.half] ?? 0;
        if (a === 0) continue;
        const [under, over] = [target.data[targetRow + i] ?? 0, sprite.data[spriteRow + i] ?? 0];
        target.data[targetRow + i] = a === 255 ? over : (under + ((over - under) * a + 127) / 255) | 0;
      }
    }
  }
}

/**
 * I420 of canvas pixels. Chroma is the mean of two by two pixels.
 * @param rgba straight alpha, 4 bytes a pixel; both sides even
 * @param opaque leaves the opacity out
 */
export function fromRgba(rgba: Uint8ClampedArray, width: number, height: number, opaque: boolean): Sprite {
  const data = new Uint8Array((width * height * 3) / 2);
  const alpha = opaque ? null : new Uint8Array(width * height);
  const chroma = width * height;
  // The formula of yuvOf, written out: a whole display has two million pixels, and they are on somebody's waiting time.
  for (let y = 0; y < height; y += 2)
    for (let x = 0; x < width; x += 2) {
      let [u, v] = [0, 0];
      for (let k = 0; k < 4; k++) {
        const i = (y + (k >> 1)) * width + x + (k & 1);
        const [red, green, blue] = [rgba[i * 4] ?? 0, rgba[i * 4 + 1] ?? 0, rgba[i * 4 + 2] ?? 0];
        const luma = 0.2126 * red + 0.7152 * green + 0.0722 * blue;
        data[i] = Math.round(16 + (219 * luma) / 255);
        u += Math.round(128 + (224 * (blue - luma)) / (255 * 1.8556));
        v += Math.round(128 + (224 * (red - luma)) / (255 * 1.5748));
        if (alpha) alpha[i] = rgba[i * 4 + 3] ?? 0;
      }
      const c = chroma + (y / 2) * (width / 2) + x / 2;
      data[c] = Math.round(u / 4);
      data[c + chroma / 4] = Math.round(v / 4);
    }
  return { width, height, data, alpha };
}

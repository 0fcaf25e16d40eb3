/**
 * The mask of a rounded rectangle, one byte a pixel, edges smoothed over a pixel.
 * @param radius of the corners, in pixels; half the shorter side makes a circle
 */
export function roundedMask(width: number, height: number, radius: number): Uint8Array<ArrayBuffer> {
  const mask = new Uint8Array(width * height);
  if (radius <= 0) return mask.fill(255);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const dx = Math.max(radius - (x + 0.5), x + 0.5 - (width - radius), 0);
      const dy = Math.max(radius - (y + 0.5), y + 0.5 - (height - radius), 0);
      const inside = radius - Math.hypot(dx, dy) + 0.5;
      mask[y * width + x] = Math.round(255 * Math.max(0, Math.min(1, inside)));
    }
  return mask;
}

/** The mask of a line along the inside of a rounded rectangle's edge. */
export function ringMask(width: number, height: number, radius: number, px: number): Uint8Array<ArrayBuffer> {
  const ring = roundedMask(width, height, radius);
  const [innerWidth, innerHeight] = [Math.max(0, width - 2 * px), Math.max(0, height - 2 * px)];
  const inner = roundedMask(innerWidth, innerHeight, Math.max(0, radius - px));
  for (let y = 0; y < innerHeight; y++)
    for (let x = 0; x < innerWidth; x++) {
      const at = (y + px) * width + x + px;
      ring[at] = Math.max(0, (ring[at] as number) - (inner[y * innerWidth + x] as number));
    }
  return ring;
}

import { z } from 'zod';
import { clamp } from '../base/clamp';
import { even, evenDown, type Rect, type Size } from '../base/sizes';

/** A part of a source that becomes the picture, in the source's pixels. */
export const Region = z.object({
  x: z.int().min(0).max(16_384),
  y: z.int().min(0).max(16_384),
  width: z.int().min(32).max(16_384),
  height: z.int().min(32).max(16_384),
});
export type Region = z.infer<typeof Region>;

/** How a region follows the pointer. */
export const Follow = z.object({
  /** Pixels a second at most. */
  speed: z.int().min(50).max(5000),
  /** Share of its sides in whose middle the pointer moves without moving it. */
  dead: z.number().min(0).max(0.9),
});
export type Follow = z.infer<typeof Follow>;

/** Smaller than this nothing can be read in it, and some encoders refuse it. */
export const LEAST_SIDE = 32;

/**
 * The nearest region that lies inside a source, on even pixels.
 * @param source even sides, at least `LEAST_SIDE`
 */
export function regionWithin(region: Rect, source: Size): Region {
  const width = evenDown(clamp(region.width, Math.min(LEAST_SIDE, source.width), source.width));
  const height = evenDown(clamp(region.height, Math.min(LEAST_SIDE, source.height), source.height));
  const place = (at: number, length: number, most: number) =>
    Math.max(0, 2 * Math.floor(clamp(at, 0, most - length) / 2));
  return {
    x: place(region.x, width, source.width),
    y: place(region.y, height, source.height),
    width,
    height,
  };
}

export const moveRegion = (region: Region, dx: number, dy: number, source: Size): Region =>
  regionWithin({ ...region, x: region.x + dx, y: region.y + dy }, source);

/** Which edges of a region are drawn: −1 the left or upper one, 1 the right or lower one, 0 neither. */
export type Handle = { h: -1 | 0 | 1; v: -1 | 0 | 1 };

/**
 * A region of which edges were drawn by a distance; the opposite ones stay where they are.
 * @param aspect width ÷ height that is kept, or null
 */
export function resizeRegion(
  region: Region,
  { h, v }: Handle,
  dx: number,
  dy: number,
  source: Size,
  aspect: number | null = null,
): Region {
  // The edges that stay, and how far the others may go.
  const right = region.x + region.width;
  const lower = region.y + region.height;
  const roomX = h < 0 ? right : source.width - region.x;
  const roomY = v < 0 ? lower : source.height - region.y;
  let width = clamp(region.width + h * dx, LEAST_SIDE, roomX);
  let height = clamp(region.height + v * dy, LEAST_SIDE, roomY);
  if (aspect !== null) {
    // The edge that is drawn decides; in a corner the one that was drawn further.
    const byWidth = h !== 0 && (v === 0 || Math.abs(h * dx) >= Math.abs(v * dy) * aspect);
    if (byWidth) height = width / aspect;
    else width = height * aspect;
    const shrink = Math.min(1, roomX / width, roomY / height);
    [width, height] = [width * shrink, height * shrink];
  }
  const size = { width: even(width), height: even(height) };
  return regionWithin(
    {
      x: h < 0 ? right - size.width : region.x,
      y: v < 0 ? lower - size.height : region.y,
      ...size,
    },
    source,
  );
}

/** A region of a given size about the same middle, as far as the source reaches. */
export const sizedRegion = (region: Region, { width, height }: Size, source: Size): Region =>
  regionWithin(
    {
      x: region.x + (region.width - width) / 2,
      y: region.y + (region.height - height) / 2,
      width,
      height,
    },
    source,
  );

/**
 * A region whose edges jump to those of windows that are near.
 * @param edges rectangles in the source, for instance of its windows
 * @param within pixels that count as near
 */
export function snapRegion(region: Region, edges: readonly Rect[], within: number, source: Size): Region {
  const xs = edges.flatMap(({ x, width }) => [x, x + width]);
  const ys = edges.flatMap(({ y, height }) => [y, y + height]);
  const nearest = (at: number, lines: readonly number[]) =>
    lines.reduce<number | null>(
      (best, line) =>
        Math.abs(line - at) <= within && (best === null || Math.abs(line - at) < Math.abs(best - at))
          ? line
          : best,
      null,
    ) ?? at;
  const [left, top] = [nearest(region.x, xs), nearest(region.y, ys)];
  const right = nearest(region.x + region.width, xs);
  const lower = nearest(region.y + region.height, ys);
  return regionWithin({ x: left, y: top, width: right - left, height: lower - top }, source);
}

/**
 * A region that follows the pointer: fixed while the pointer is in its dead zone, otherwise moving evenly towards it.
 * @param seconds since the last time
 * @returns fractional place; `regionWithin` makes it even
 */
export function follow(
  region: Rect,
  pointer: { x: number; y: number },
  source: Size,
  { dead, speed }: Follow,
  seconds: number,
): Rect {
  const step = (at: number, length: number, to: number, most: number): number => {
    const slack = (length * dead) / 2;
    const off = to - (at + length / 2);
    const beyond = Math.sign(off) * Math.max(0, Math.abs(off) - slack);
    // Eased, so that it neither starts nor stops with a jerk: half of the way in each tenth of a second, within the speed.
    const eased = beyond * (1 - 0.5 ** (seconds * 10));
    return clamp(at + clamp(eased, -speed * seconds, speed * seconds), 0, most - length);
  };
  return {
    ...region,
    x: step(region.x, region.width, pointer.x, source.width),
    y: step(region.y, region.height, pointer.y, source.height),
  };
}

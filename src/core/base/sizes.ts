import { z } from 'zod';

export const Size = z.object({ width: z.int().min(16).max(7680), height: z.int().min(16).max(7680) });
export type Size = z.infer<typeof Size>;

/** A place and a size in pixels. */
export type Rect = { x: number; y: number; width: number; height: number };

export const sameSize = (a: Size, b: Size): boolean => a.width === b.width && a.height === b.height;

/** The nearest even number: a place that 4:2:0 can have. */
export const nearestEven = (pixels: number): number => 2 * Math.round(pixels / 2);

/** 4:2:0 shares one colour sample between two by two pixels, so both sides must be even. */
export const even = (pixels: number): number => Math.max(2, nearestEven(pixels));

/** The largest even side that is not longer than asked: a crop may lose a pixel, never invent one. */
export const evenDown = (pixels: number): number => Math.max(2, 2 * Math.floor(pixels / 2));

/**
 * The picture for a source that must fit a box, keeping its shape and never enlarging it.
 * @returns even sides; `scale` is picture height ÷ source height (1 = one to one)
 */
export function fitWithin(source: Size, box: Size): Size & { scale: number } {
  const scale = Math.min(1, box.width / source.width, box.height / source.height);
  if (scale === 1) return { width: evenDown(source.width), height: evenDown(source.height), scale: 1 };
  return { width: even(source.width * scale), height: even(source.height * scale), scale };
}

/** Raw bits per second of 4:2:0 pictures with 8 bits per sample: 12 bits/pixel. */
export const rawBitsPerSecond = (size: Size, fps: number): number => size.width * size.height * 12 * fps;

export const sizeText = (size: Size): string => `${size.width} × ${size.height}`;

/** Sizes offered by name; any other even size is as good. */
export const KNOWN_SIZES: readonly (Size & { name: string })[] = [
  { width: 3840, height: 2160, name: 'UHD' },
  { width: 2560, height: 1440, name: 'QHD' },
  { width: 1920, height: 1080, name: 'Full HD' },
  { width: 1280, height: 720, name: 'HD' },
  { width: 854, height: 480, name: '480 lines' },
  { width: 640, height: 360, name: '360 lines' },
  { width: 1080, height: 1080, name: 'square' },
  { width: 1080, height: 1920, name: 'upright' },
];

import type { Fitted } from './fit';

/**
 * Where a point of the source lies in the picture that is made of it.
 * @param at pixels of the source
 * @returns shares of the picture's width and height, 0…1; null where the point is not in the picture
 */
export function pictureShare(
  at: { x: number; y: number },
  { crop, size, at: placed }: Fitted,
): { x: number; y: number } | null {
  const [x, y] = [(at.x - crop.x) / crop.width, (at.y - crop.y) / crop.height];
  if (x < 0 || x > 1 || y < 0 || y > 1) return null;
  return {
    x: (placed.x + x * placed.width) / size.width,
    y: (placed.y + y * placed.height) / size.height,
  };
}

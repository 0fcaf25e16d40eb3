import type { Size } from '@/core/base/sizes';
import { yuvOfHex } from '@/core/image/bt709';
import { type Box, overlap, type Sprite } from '../i420';
import { sprite, write } from '../sprites';
import type { Item } from '../stage';

export const TITLE_HEIGHT = 56;
export const INK = '#17292b';
export const QUIET = '#51625f';
export const PAPER = '#fffdf8';

/** Items of a program in its own window: all places from the window's upper left corner. */
export const item = (key: string, box: Box, drawn: Sprite, shiftY = 0): Item => ({
  key,
  box,
  sprite: drawn,
  shiftY,
});
export const patch = (key: string, box: Box, colour: string): Item => ({
  key,
  box,
  colour: yuvOfHex(colour),
});

/** The ground of a window and its title. */
export function frame(title: string, { width, height }: Size): Item[] {
  const bar = sprite(`title ${title} ${width}`, width, TITLE_HEIGHT, true, (pen) => {
    pen.fillStyle = '#e9e3d4';
    pen.fillRect(0, 0, width, TITLE_HEIGHT);
    write(pen, title, 28, 38, 24, INK, 650);
    if (width > 700) write(pen, 'Fernhollow Seed Library', width - 28, 37, 20, QUIET, 450, 'right');
  });
  return [
    patch(`paper ${title}`, { x: 0, y: 0, width, height }, PAPER),
    item(`title ${title}`, { x: 0, y: 0, width, height: TITLE_HEIGHT }, bar),
  ];
}

/** Items moved to another place, and cut at the edges of what holds them. Keys are told apart by `prefix`. */
export function placed(
  items: readonly Item[],
  at: { x: number; y: number },
  clip: Box,
  prefix: string,
): Item[] {
  return items.flatMap((each): Item[] => {
    const whole = { ...each.box, x: each.box.x + at.x, y: each.box.y + at.y };
    const box = overlap(whole, clip);
    if (box.width === 0 || box.height === 0) return [];
    const key = `${prefix} ${each.key}`;
    if ('colour' in each) return [{ ...each, key, box }];
    const [shiftX, shiftY] = [(each.shiftX ?? 0) + box.x - whole.x, (each.shiftY ?? 0) + box.y - whole.y];
    return [{ ...each, key, box, shiftX, shiftY }];
  });
}

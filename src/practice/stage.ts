import { type Box, draw, fill, type I420, newPicture, overlap, type Sprite } from './i420';

/**
 * One thing on a scripted screen. `key` names everything that is drawn in it: two items of the same key, place and layer are
 * the same pixels.
 */
export type Item = { readonly key: string; readonly box: Box } & (
  | { readonly sprite: Sprite; readonly shiftX?: number; readonly shiftY?: number }
  | { readonly colour: readonly [number, number, number] }
);

/** A persistent picture and what it shows. Redrawing touches only what changed since the last time. */
export type Stage = { readonly picture: I420; shown: readonly Item[] };

export const newStage = (width: number, height: number): Stage => ({
  picture: newPicture(width, height),
  shown: [],
});

/**
 * Makes the stage show these items, bottom first.
 * @returns whether any pixel may have changed
 */
export function show(stage: Stage, items: readonly Item[]): boolean {
  const whole = { x: 0, y: 0, width: stage.picture.width, height: stage.picture.height };
  const dirty = changes(stage.shown, items).map((box) => overlap(box, whole));
  const boxes = merged(dirty.filter((box) => box.width > 0 && box.height > 0));
  stage.shown = items;
  for (const box of boxes) repaint(stage.picture, items, box);
  return boxes.length > 0;
}

const same = (a: Item, b: Item) =>
  a.key === b.key &&
  a.box.x === b.box.x &&
  a.box.y === b.box.y &&
  a.box.width === b.box.width &&
  a.box.height === b.box.height &&
  ('colour' in a || 'colour' in b || (a.shiftX === b.shiftX && a.shiftY === b.shiftY));

/** Boxes of items that appeared, went or moved in depth. Scripts keep their order, so one walk finds them. */
function changes(before: readonly Item[], after: readonly Item[]): Box[] {
  const boxes: Box[] = [];
  let [i, j] = [0, 0];
  while (i < before.length || j < after.length) {
    const [old, now] = [before[i], after[j]];
    if (old && now && same(old, now)) {
      i++;
      j++;
      continue;
    }
    const stays = old && after.slice(j).some((item) => same(item, old));
    if (old && !stays) {
      boxes.push(old.box);
      i++;
    } else if (now) {
      boxes.push(now.box);
      j++;
    } else break;
  }
  return boxes;
}

/** Joins boxes that overlap, so that no pixel is painted twice. */
function merged(boxes: Box[]): Box[] {
  const done: Box[] = [];
  for (let box of boxes) {
    for (let k = 0; k < done.length; ) {
      const other = done[k];
      if (!other || overlap(other, box).width === 0 || overlap(other, box).height === 0) {
        k++;
        continue;
      }
      const [x, y] = [Math.min(box.x, other.x), Math.min(box.y, other.y)];
      const width = Math.max(box.x + box.width, other.x + other.width) - x;
      box = { x, y, width, height: Math.max(box.y + box.height, other.y + other.height) - y };
      done.splice(k, 1);
      k = 0;
    }
    done.push(box);
  }
  return done;
}

/** Paints a box from the highest item that covers it whole with opaque pixels. */
function repaint(picture: I420, items: readonly Item[], box: Box): void {
  let from = 0;
  items.forEach((item, i) => {
    const part = overlap(item.box, box);
    const covers = part.width === box.width && part.height === box.height;
    if (covers && ('colour' in item || item.sprite.alpha === null)) from = i;
  });
  for (const item of items.slice(from)) {
    const clip = overlap(item.box, box);
    if (clip.width === 0 || clip.height === 0) continue;
    if ('colour' in item) fill(picture, clip, item.colour);
    else
      draw(
        picture,
        item.sprite,
        { x: item.box.x - (item.shiftX ?? 0), y: item.box.y - (item.shiftY ?? 0) },
        clip,
      );
  }
}

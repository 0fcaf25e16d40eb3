import { even, evenDown, fitWithin, type Rect, type Size } from '../base/sizes';
import { regionWithin } from '../image/region';
import type { Rig } from '../rig/rig';

/** How what is captured becomes the picture. All sides and places are even. */
export type Fitted = {
  /** What of the source is kept. */
  crop: Rect;
  /** The picture. */
  size: Size;
  /** Where the kept part lies in the picture; around it are bars. */
  at: Rect;
  /** Height in the picture ÷ height in the source: 1 is one to one. */
  scale: number;
};

type Wanted = Pick<Rig['picture'], 'aim' | 'box' | 'fit'>;

const whole = ({ width, height }: Size): Rect => ({ x: 0, y: 0, width, height });

/** The middle of a rectangle that has the shape of a box. */
function middle(rect: Rect, box: Size): Rect {
  const scale = Math.min(rect.width / box.width, rect.height / box.height);
  const width = Math.min(rect.width, even(box.width * scale));
  const height = Math.min(rect.height, even(box.height * scale));
  return {
    x: rect.x + evenDown((rect.width - width) / 2 + 0.001) * Number(rect.width - width >= 2),
    y: rect.y + evenDown((rect.height - height) / 2 + 0.001) * Number(rect.height - height >= 2),
    width,
    height,
  };
}

/**
 * The picture that a rig makes of a source.
 * - without a box: one to one, whatever the fit
 * - `within`: the kept part's shape, no larger than the box and than itself, no bars
 * - `letterbox`: the box, with bars; the kept part whole and in its shape, never enlarged
 * - `fill`: the box, or what is left of it where the kept part is smaller; what has another shape is cut off
 * - `stretch`: the box; the only one that changes shapes and that enlarges
 */
export function fitted({ aim, box, fit }: Wanted, source: Size): Fitted {
  const evenSource = { width: evenDown(source.width), height: evenDown(source.height) };
  const kept = aim === 'whole' ? whole(evenSource) : regionWithin(aim, evenSource);
  if (!box) return { crop: kept, size: sizeOf(kept), at: whole(kept), scale: 1 };
  const evenBox = { width: evenDown(box.width), height: evenDown(box.height) };
  if (fit === 'within') {
    const { width, height, scale } = fitWithin(kept, box);
    return { crop: kept, size: { width, height }, at: whole({ width, height }), scale };
  }
  if (fit === 'stretch')
    return { crop: kept, size: evenBox, at: whole(evenBox), scale: evenBox.height / kept.height };
  if (fit === 'fill') {
    const crop = middle(kept, evenBox);
    const { width, height, scale } = fitWithin(crop, evenBox);
    return { crop, size: { width, height }, at: whole({ width, height }), scale };
  }
  const inner = fitWithin(kept, evenBox);
  const side = (outer: number, length: number) =>
    evenDown((outer - length) / 2 + 0.001) * Number(outer - length >= 2);
  const [width, height] = [Math.min(inner.width, evenBox.width), Math.min(inner.height, evenBox.height)];
  return {
    crop: kept,
    size: evenBox,
    at: { x: side(evenBox.width, width), y: side(evenBox.height, height), width, height },
    scale: inner.scale,
  };
}

/** No picture is larger. */
const LARGEST_SIDE = 7680;

/**
 * The picture size at which a rig records its capture area one to one and in the shape that was chosen; null where that is the
 * capture area's own.
 */
export function oneToOneBox({ aim, box, fit }: Wanted, source: Size): Size | null {
  if (!box || fit === 'within' || fit === 'stretch') return null;
  const { crop } = fitted({ aim, box, fit }, source);
  if (fit === 'fill') return sizeOf(crop);
  // The smallest box of that shape that holds all of it.
  const scale = Math.max(crop.width / box.width, crop.height / box.height);
  const up = (length: number) => 2 * Math.ceil((length * scale) / 2 - 1e-6);
  const [width, height] = [up(box.width), up(box.height)];
  return Math.max(width, height) <= LARGEST_SIDE ? { width, height } : null;
}

const sizeOf = ({ width, height }: Rect): Size => ({ width, height });

export const hasBars = ({ size, at }: Fitted): boolean => at.width < size.width || at.height < size.height;

/** Whether the capture area is recorded one to one. */
export const isOneToOne = ({ crop, at }: Pick<Fitted, 'crop' | 'at'>): boolean =>
  crop.width === at.width && crop.height === at.height;

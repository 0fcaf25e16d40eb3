import { fromRgba, type Sprite } from './i420';

export const FAMILY = 'Otter Practice';

/** Loads the shipped typeface where there is no document: in a worker. */
export async function loadTypeface(): Promise<void> {
  const face = new FontFace(FAMILY, 'url(/fonts/atkinson.woff2)', { weight: '200 800' });
  (self as unknown as { fonts: FontFaceSet }).fonts.add(await face.load());
}

export type Pen = OffscreenCanvasRenderingContext2D;
const cache = new Map<string, Sprite>();
/** A window that is being resized is drawn again at each size. */
const LARGEST_CACHE_BYTES = 150_000_000;
let cachedBytes = 0;
const bytesOf = ({ data, alpha }: Sprite) => data.length + (alpha?.length ?? 0);

/**
 * A sprite drawn by canvas, once per key.
 * @param key names everything the drawing depends on
 * @param opaque the drawing covers the sprite whole
 */
export function sprite(
  key: string,
  width: number,
  height: number,
  opaque: boolean,
  paint: (pen: Pen) => void,
): Sprite {
  const known = cache.get(key);
  if (known) return known;
  const canvas = new OffscreenCanvas(width, height);
  const pen = canvas.getContext('2d', { willReadFrequently: true, alpha: !opaque });
  if (!pen) throw new Error('This browser gives a worker no canvas to draw on.');
  pen.textBaseline = 'alphabetic';
  paint(pen);
  const made = fromRgba(pen.getImageData(0, 0, width, height).data, width, height, opaque);
  cache.set(key, made);
  cachedBytes += bytesOf(made);
  for (const [old, drawn] of cache) {
    if (cachedBytes <= LARGEST_CACHE_BYTES || old === key) break;
    cache.delete(old);
    cachedBytes -= bytesOf(drawn);
  }
  return made;
}

/** One line of text. */
export function write(
  pen: Pen,
  text: string,
  x: number,
  y: number,
  size: number,
  colour: string,
  weight = 450,
  align: CanvasTextAlign = 'left',
) {
  pen.font = `${weight} ${size}px "${FAMILY}"`;
  pen.fillStyle = colour;
  pen.textAlign = align;
  pen.fillText(text, x, y);
}

export function rounded(
  pen: Pen,
  x: number,
  y: number,
  w: number,
  h: number,
  r: number,
  colour: string,
  edge?: string,
) {
  pen.beginPath();
  pen.roundRect(x, y, w, h, r);
  pen.fillStyle = colour;
  pen.fill();
  if (!edge) return;
  pen.strokeStyle = edge;
  pen.lineWidth = 2;
  pen.stroke();
}

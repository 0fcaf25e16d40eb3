import type { VideoSample } from 'mediabunny';
import type { Rect } from '@/core/base/sizes';
import { type ColourKey, keyPixels } from '@/core/image/colour-key';
import { arrange, contain, GROUND } from '@/core/layout/layout';
import { isMirrored, type Layout } from '@/core/layout/layout-kinds';
import { cameraAt, type Reel, screenAt } from './reels';

/** Draws the pictures that stand at a time of a take, by the layout functions that the finished video has too. */
export function drawReel(
  pen: OffscreenCanvasRenderingContext2D,
  reel: Reel,
  takeUs: number,
  layout: Layout,
): void {
  const screen = screenAt(reel, takeUs);
  if (!screen) return;
  const camera = cameraAt(reel, takeUs);
  // The first screen's size is the picture's, as in the finished video; a later one is fitted into it.
  const picture = reel.lanes[0]?.size ?? screen.size;
  const seen = arrange(picture, screen.size, camera?.size ?? null, layout);
  const frame = contain(picture, pen.canvas);
  const scale = frame.width / picture.width;
  pen.imageSmoothingQuality = 'high';
  const filled = seen.screen && seen.screen.width >= picture.width && seen.screen.height >= picture.height;
  if (!filled) {
    pen.fillStyle = GROUND;
    pen.fillRect(frame.x, frame.y, frame.width, frame.height);
  }
  if (seen.screen) {
    const { x, y, width, height } = seen.screen;
    screen.lane.shown()?.draw(pen, frame.x + x * scale, frame.y + y * scale, width * scale, height * scale);
  }
  const face = camera?.lane.shown();
  if (!seen.camera || !face) return;
  const { at, crop, radius, border, key } = seen.camera;
  const [width, height] = [at.width * scale, at.height * scale];
  const mirror = isMirrored(layout);
  pen.save();
  pen.beginPath();
  pen.roundRect(frame.x + at.x * scale, frame.y + at.y * scale, width, height, radius * scale);
  pen.clip();
  pen.translate(frame.x + at.x * scale + (mirror ? width : 0), frame.y + at.y * scale);
  if (mirror) pen.scale(-1, 1);
  if (key) {
    const own = keyed(face, crop, Math.max(1, Math.round(width)), Math.max(1, Math.round(height)), key);
    pen.drawImage(own, 0, 0, own.width, own.height, 0, 0, width, height);
  } else face.draw(pen, crop.x, crop.y, crop.width, crop.height, 0, 0, width, height);
  pen.restore();
  if (!border) return;
  const line = border.px * scale;
  pen.strokeStyle = border.colour;
  pen.lineWidth = line;
  pen.beginPath();
  pen.roundRect(
    frame.x + at.x * scale + line / 2,
    frame.y + at.y * scale + line / 2,
    width - line,
    height - line,
    Math.max(0, radius * scale - line / 2),
  );
  pen.stroke();
}

/** Where the camera is drawn before it is keyed: reused for each frame of the same size. */
let scratch: OffscreenCanvasRenderingContext2D | null = null;

function keyed(
  face: VideoSample,
  crop: Rect,
  width: number,
  height: number,
  key: ColourKey,
): OffscreenCanvas {
  if (scratch?.canvas.width !== width || scratch.canvas.height !== height)
    scratch = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!scratch) throw new Error('This browser gives a worker no canvas to draw on.');
  scratch.imageSmoothingQuality = 'high';
  face.draw(scratch, crop.x, crop.y, crop.width, crop.height, 0, 0, width, height);
  const picture = scratch.getImageData(0, 0, width, height);
  keyPixels(picture.data, width, height, key);
  scratch.putImageData(picture, 0, 0);
  return scratch.canvas;
}

import { isMirrored, type Layout } from '@/core/cut/cut';
import { arrange, contain, GROUND } from '@/core/layout';
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
  const { at, crop, radius } = seen.camera;
  const [width, height] = [at.width * scale, at.height * scale];
  const mirror = isMirrored(layout);
  pen.save();
  pen.beginPath();
  pen.roundRect(frame.x + at.x * scale, frame.y + at.y * scale, width, height, radius * scale);
  pen.clip();
  pen.translate(frame.x + at.x * scale + (mirror ? width : 0), frame.y + at.y * scale);
  if (mirror) pen.scale(-1, 1);
  face.draw(pen, crop.x, crop.y, crop.width, crop.height, 0, 0, width, height);
  pen.restore();
}

import type { VideoSample } from 'mediabunny';
import { sameValue } from '@/core/base/same-value';
import { type Rect, type Size, sameSize } from '@/core/base/sizes';
import {
  type Area,
  alignedViews,
  blurredSize,
  COVER_COLOUR,
  type Cover,
  evenRect,
  type View,
  viewAt,
  views,
} from '@/core/cut/area';
import { type Here as Place, type Step, stepTimeUs } from '@/core/cut/cut';
import { cssFilter, isUnchanged, type Look } from '@/core/cut/looks';
import { arrange, type CameraBox, contain, GROUND } from '@/core/layout/layout';
import { isMirrored } from '@/core/layout/layout-kinds';
import { drawnKeyed } from './draw-keyed';
import { cameraAt, type Reel, screenAt } from './reels';
import { scaler } from './scaled/scaler';
import { screenPixels } from './scaled/screen-pixels';

type Pen = OffscreenCanvasRenderingContext2D;

/** The views of steps: a step that changes is another one. */
const known = new WeakMap<Step, readonly View[]>();
function viewsOf(step: Step): readonly View[] {
  const found = known.get(step) ?? views(step.zooms, stepTimeUs(step));
  known.set(step, found);
  return found;
}

/** The same in whole pixels of a screen. */
const aligned = new WeakMap<Step, { size: Size; views: readonly View[] }>();
function alignedOf(step: Step, size: Size): readonly View[] {
  const found = aligned.get(step);
  if (found && sameSize(found.size, size)) return found.views;
  const own = alignedViews(viewsOf(step), size);
  aligned.set(step, { size, views: own });
  return own;
}

/** What of a step changes without a new picture: where it is zoomed, and what is covered. */
export const seenOf = (step: Step, hereUs: number): { area: Area; covers: Cover[] } => ({
  area: viewAt(viewsOf(step), hereUs),
  covers: step.covers.filter(({ fromUs, toUs }) => fromUs <= hereUs && hereUs < toUs),
});

/** Whether two times of the same or another step look alike, if their pictures are. */
export const seenAlike = (a: ReturnType<typeof seenOf>, b: ReturnType<typeof seenOf>): boolean =>
  sameValue(a, b);

/**
 * Draws the pictures that stand at a time of a take, as its step shows them: by the functions that the finished video has too.
 * @param picture size of the video's picture, into which every screen is fitted
 * @param isWanted whether nothing newer is drawn; asked when the screen's pixels are there
 * @returns whether it was drawn
 */
export async function drawReel(
  pen: Pen,
  picture: Size,
  { reel, place: { takeUs, step, hereUs } }: { reel: Reel; place: Place },
  isWanted: () => boolean,
): Promise<boolean> {
  const screen = screenAt(reel, takeUs);
  if (!screen) return false;
  const camera = cameraAt(reel, takeUs);
  const seen = arrange(picture, screen.size, camera?.size ?? null, step.layout);
  const frame = contain(picture, pen.canvas);
  const scale = frame.width / picture.width;
  const onCanvas = ({ x, y, width, height }: Rect): Rect => ({
    ...{ x: frame.x + x * scale, y: frame.y + y * scale },
    ...{ width: width * scale, height: height * scale },
  });
  const sample = screen.lane.shown();
  const shown =
    seen.screen && sample
      ? { sample, size: screen.size, from: zoomedTo(step, screen.size, hereUs), at: onCanvas(seen.screen) }
      : null;
  // A look is a filter of the canvas, which pixels that are put there do not pass.
  const pixels =
    shown && isUnchanged(step.looks.screen)
      ? await screenPixels(scaler(), shown.sample, shown.size, shown.from, shown.at)
      : null;
  if (!isWanted()) return false;
  // The lane may have gone on to another picture, and closed this one.
  if (shown) shown.sample = screen.lane.shown() ?? shown.sample;
  pen.imageSmoothingQuality = 'high';
  const filled = seen.screen && seen.screen.width >= picture.width && seen.screen.height >= picture.height;
  if (!filled) {
    pen.fillStyle = GROUND;
    pen.fillRect(frame.x, frame.y, frame.width, frame.height);
  }
  if (pixels) pen.putImageData(new ImageData(pixels.rgba, pixels.width, pixels.height), pixels.x, pixels.y);
  if (shown)
    lit(pen, step.looks.screen, () => {
      if (!pixels) drawScreen(pen, shown);
      coverScreen(pen, shown, seenOf(step, hereUs).covers);
    });
  const face = camera?.lane.shown();
  if (!seen.camera || !face) return true;
  drawCamera(
    pen,
    face,
    seen.camera,
    onCanvas(seen.camera.at),
    scale,
    isMirrored(step.layout),
    step.looks.camera,
  );
  return true;
}

function lit(pen: Pen, look: Look, draw: () => void): void {
  pen.filter = isUnchanged(look) ? 'none' : cssFilter(look);
  draw();
  pen.filter = 'none';
}

/** The part of a screen's picture that is seen, in its pixels. */
function zoomedTo(step: Step, size: Size, hereUs: number): Rect {
  const area = viewAt(alignedOf(step, size), hereUs);
  return {
    ...{ x: area.x * size.width, y: area.y * size.height },
    ...{ width: area.width * size.width, height: area.height * size.height },
  };
}

/** A part of the screen's picture and its place on the canvas. */
type Shown = { sample: VideoSample; size: Size; from: Rect; at: Rect };

const drawScreen = (pen: Pen, { sample, from, at }: Shown): void =>
  sample.draw(pen, from.x, from.y, from.width, from.height, at.x, at.y, at.width, at.height);

/** Draws what hides parts of the screen. */
function coverScreen(pen: Pen, { sample, size, from, at }: Shown, covers: Cover[]): void {
  if (covers.length === 0) return;
  pen.save();
  pen.beginPath();
  pen.rect(at.x, at.y, at.width, at.height);
  pen.clip();
  const [x, y] = [at.width / from.width, at.height / from.height];
  for (const { area: covered, kind } of covers) {
    const own = evenRect(covered, size);
    const to: [number, number, number, number] = [
      at.x + (own.x - from.x) * x,
      at.y + (own.y - from.y) * y,
      own.width * x,
      own.height * y,
    ];
    if (kind === 'colour') {
      pen.fillStyle = COVER_COLOUR;
      pen.fillRect(...to);
      continue;
    }
    const coarse = coarsely(sample, own);
    pen.drawImage(coarse, 0, 0, coarse.width, coarse.height, ...to);
  }
  pen.restore();
}

let coarsePen: Pen | null = null;

/** A part of a picture in so few pixels that nothing of it is read. */
function coarsely(sample: VideoSample, { x, y, width, height }: Rect): OffscreenCanvas {
  const size = blurredSize({ width, height });
  if (coarsePen?.canvas.width !== size.width || coarsePen.canvas.height !== size.height)
    coarsePen = new OffscreenCanvas(size.width, size.height).getContext('2d');
  if (!coarsePen) throw new Error('This browser gives a worker no canvas to draw on.');
  coarsePen.imageSmoothingQuality = 'high';
  sample.draw(coarsePen, x, y, width, height, 0, 0, size.width, size.height);
  return coarsePen.canvas;
}

/** @param at on the canvas */
function drawCamera(
  pen: Pen,
  face: VideoSample,
  { crop, radius, border, key }: CameraBox,
  at: Rect,
  scale: number,
  mirror: boolean,
  look: Look,
): void {
  pen.save();
  pen.beginPath();
  pen.roundRect(at.x, at.y, at.width, at.height, radius * scale);
  pen.clip();
  pen.translate(at.x + (mirror ? at.width : 0), at.y);
  if (mirror) pen.scale(-1, 1);
  lit(pen, look, () => {
    if (key) {
      const [width, height] = [Math.max(1, Math.round(at.width)), Math.max(1, Math.round(at.height))];
      const own = drawnKeyed(face, crop, width, height, key);
      pen.drawImage(own, 0, 0, own.width, own.height, 0, 0, at.width, at.height);
    } else face.draw(pen, crop.x, crop.y, crop.width, crop.height, 0, 0, at.width, at.height);
  });
  pen.restore();
  if (!border) return;
  const line = border.px * scale;
  pen.strokeStyle = border.colour;
  pen.lineWidth = line;
  pen.beginPath();
  pen.roundRect(
    ...([at.x + line / 2, at.y + line / 2, at.width - line, at.height - line] as const),
    Math.max(0, radius * scale - line / 2),
  );
  pen.stroke();
}

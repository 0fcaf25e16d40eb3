import type { Opened } from '@/core/cut/opening';
import { GROUND } from '@/core/layout/layout';

type Pen = OffscreenCanvasRenderingContext2D;

/** The canvas with the last picture before a step, held while the step comes in. */
export type Standing = { beforeUs: number; picture: OffscreenCanvas };

/** Keeps what is on a canvas. */
export function standing(pen: Pen, beforeUs: number): Standing | null {
  const { width, height } = pen.canvas;
  if (width === 0 || height === 0) return null;
  const picture = new OffscreenCanvas(width, height);
  picture.getContext('2d', { alpha: false })?.drawImage(pen.canvas, 0, 0);
  return { beforeUs, picture };
}

/** Draws the transition over the step's own picture: the same shares as in the delivered video. */
export function drawOpening(pen: Pen, { kind, share }: Opened, { picture }: Standing): void {
  const { width, height } = pen.canvas;
  const draw = (alpha: number, what: () => void) => {
    pen.globalAlpha = Math.max(0, Math.min(1, alpha));
    what();
    pen.globalAlpha = 1;
  };
  const leaving = () => pen.drawImage(picture, 0, 0, width, height);
  if (kind === 'dissolve') {
    draw(1 - share, leaving);
    return;
  }
  if (share < 0.5) draw(1, leaving);
  draw(share < 0.5 ? 2 * share : 2 - 2 * share, () => {
    pen.fillStyle = GROUND;
    pen.fillRect(0, 0, width, height);
  });
}

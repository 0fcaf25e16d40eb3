import type { Rect, Size } from '../base/sizes';
import type { OutputShape } from '../deliver/output-shape';
import type { Shot } from '../deliver/shot';
import { arrange } from '../layout/layout';

/**
 * Steps of the quantizer by which a camera over the screen is coarser than the text: the quantizer that keeps text clear would encode a
 * camera's noise, which costs more bytes than all of the text (docs/figures.md, `compact`).
 */
const COARSER = 4;
/** Quantizers of 8-bit H.264 go up to this (ITU-T H.264, 7.4.2.2). */
const MOST_QP = 51;

/**
 * Where a camera lies in the encoder's picture.
 * @param size of the composed picture
 * @returns null where none is laid beside or over the screen
 */
export function cameraArea(shot: Shot, size: Size, { scaled, canvas }: OutputShape): Rect | null {
  const [screen] = shot.screens;
  const [camera] = shot.cameras;
  if (!screen || !camera || shot.layout.kind === 'camera') return null;
  const at = arrange(size, screen.size, camera.size, shot.layout).camera?.at;
  if (!at) return null;
  const scale = { x: scaled.width / size.width, y: scaled.height / size.height };
  return {
    x: Math.round((canvas.width - scaled.width) / 2 + at.x * scale.x),
    y: Math.round((canvas.height - scaled.height) / 2 + at.y * scale.y),
    width: Math.round(at.width * scale.x),
    height: Math.round(at.height * scale.y),
  };
}

/** A filter that marks an area of which the encoder keeps less. libx264 heeds it where adaptive quantization is on, if only at strength 0. */
export const sparingFilter = ({ x, y, width, height }: Rect): string =>
  `addroi=${x}:${y}:${width}:${height}:${COARSER}/${MOST_QP}`;

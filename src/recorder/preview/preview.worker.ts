/** Draws a source's latest picture on a canvas of the page, as often as this machine can spare: recording comes first. */
import { z } from 'zod';
import { percentile } from '@/core/base/percentile';
import { ColourKey, keyPixels } from '@/core/image/colour-key';

const Order = z.object({
  canvas: z.instanceof(OffscreenCanvas).optional(),
  port: z.instanceof(MessagePort).optional(),
  width: z.int().min(1),
  height: z.int().min(1),
  /** Something may shine through. */
  alpha: z.boolean().optional(),
  /** The chroma key from now on. */
  key: ColourKey.nullable().optional(),
  /** Nobody looks any more: what still comes is let go, then the worker ends. */
  last: z.boolean().optional(),
});

/** Drawing may take this share of one core at most, and is never more often than this. */
const SHARE = 0.1;
const LEAST_MS = 66;
/** For the recorder's last word, which comes after its last picture. */
const LINGER_MS = 30_000;

let pen: OffscreenCanvasRenderingContext2D | null = null;
let wall: ColourKey | null = null;
/** What the last pictures took, ms. */
let costs: number[] = [];
const TOLD_EVERY = 10;

/** Takes the wall away, and tells now and then what that costs. */
function takeWall(on: OffscreenCanvasRenderingContext2D, key: ColourKey): void {
  const { width, height } = on.canvas;
  const began = performance.now();
  const picture = on.getImageData(0, 0, width, height);
  keyPixels(picture.data, width, height, key);
  on.putImageData(picture, 0, 0);
  costs.push(performance.now() - began);
  if (costs.length < TOLD_EVERY) return;
  postMessage(Math.round(percentile(costs, 0.5) * 10) / 10);
  costs = [];
}

function follow(port: MessagePort): void {
  port.onmessage = ({ data }: MessageEvent<VideoFrame | 'end'>) => {
    if (data === 'end') return self.close();
    const began = performance.now();
    try {
      if (pen) {
        pen.drawImage(data, 0, 0, pen.canvas.width, pen.canvas.height);
        if (wall) takeWall(pen, wall);
      }
    } finally {
      data.close();
    }
    const took = performance.now() - began;
    setTimeout(() => port.postMessage('next'), Math.max(LEAST_MS, took / SHARE));
  };
  port.postMessage('next');
}

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const { canvas, port, width, height, last, alpha, key } = Order.parse(data);
  if (key !== undefined) wall = key;
  if (last) {
    pen = null;
    setTimeout(() => self.close(), LINGER_MS);
    return;
  }
  if (canvas) pen = canvas.getContext('2d', { alpha: alpha === true, willReadFrequently: alpha === true });
  if (pen) {
    pen.canvas.width = width;
    pen.canvas.height = height;
    // A canvas that was resized is empty until the next picture; a still screen would leave it so.
    if (!wall) {
      pen.fillStyle = '#101c1d';
      pen.fillRect(0, 0, width, height);
    }
  }
  if (port) follow(port);
};

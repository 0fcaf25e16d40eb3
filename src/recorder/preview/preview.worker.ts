/** Draws a source's latest picture on a canvas of the page, as often as this machine can spare: recording comes first. */
import { z } from 'zod';

const Order = z.object({
  canvas: z.instanceof(OffscreenCanvas).optional(),
  port: z.instanceof(MessagePort).optional(),
  width: z.int().min(1),
  height: z.int().min(1),
  /** Nobody looks any more: what still comes is let go, then the worker ends. */
  last: z.boolean().optional(),
});

/** Drawing may take this share of one core at most, and is never more often than this. */
const SHARE = 0.1;
const LEAST_MS = 66;
/** For the recorder's last word, which comes after its last picture. */
const LINGER_MS = 30_000;

let pen: OffscreenCanvasRenderingContext2D | null = null;

function follow(port: MessagePort): void {
  port.onmessage = ({ data }: MessageEvent<VideoFrame | 'end'>) => {
    if (data === 'end') return self.close();
    const began = performance.now();
    try {
      if (pen) pen.drawImage(data, 0, 0, pen.canvas.width, pen.canvas.height);
    } finally {
      data.close();
    }
    const took = performance.now() - began;
    setTimeout(() => port.postMessage('next'), Math.max(LEAST_MS, took / SHARE));
  };
  port.postMessage('next');
}

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const { canvas, port, width, height, last } = Order.parse(data);
  if (last) {
    pen = null;
    setTimeout(() => self.close(), LINGER_MS);
    return;
  }
  if (canvas) pen = canvas.getContext('2d', { alpha: false });
  if (pen) {
    pen.canvas.width = width;
    pen.canvas.height = height;
    // A canvas that was resized is empty until the next picture; a still screen would leave it so.
    pen.fillStyle = '#101c1d';
    pen.fillRect(0, 0, width, height);
  }
  if (port) follow(port);
};

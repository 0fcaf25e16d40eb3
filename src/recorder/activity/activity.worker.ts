/** Looks at a source once a second and tells where it changes. */
import { z } from 'zod';
import { type Activity, cellsOf, looked, NO_ACTIVITY } from '@/core/layout/activity';

const Order = z.union([z.object({ port: z.instanceof(MessagePort) }), z.object({ last: z.literal(true) })]);
const EVERY_MS = 1000;

let asks: MessagePort | null = null;
let [activity, before]: [Activity, Float32Array | null] = [NO_ACTIVITY, null];
let size = '';

async function look(picture: VideoFrame): Promise<void> {
  const { width, height } = picture.visibleRect ?? { width: picture.codedWidth, height: picture.codedHeight };
  const memory = new Uint8Array(picture.allocationSize());
  const [luma] = await picture.copyTo(memory);
  const now = cellsOf(memory.subarray(luma?.offset ?? 0), { width, height }, luma?.stride);
  const key = `${width}x${height}`;
  // Another size is another thing: what changed before says nothing of it.
  if (key !== size) [activity, before, size] = [NO_ACTIVITY, null, key];
  if (before) {
    activity = looked(activity, before, now);
    postMessage(activity);
  }
  before = now;
}

/** A picture that cannot be read says nothing of where it changes; the next one is looked at. */
const failed = () => undefined;

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const order = Order.parse(data);
  // The answer to it comes after the last picture, which must be let go.
  if ('last' in order) return asks?.postMessage('end');
  const { port } = order;
  asks = port;
  /** The look that is under way: a worker that ends in the middle of one never lets its picture go. */
  let looking = Promise.resolve();
  port.onmessage = ({ data: picture }: MessageEvent<VideoFrame | 'end'>) => {
    if (picture === 'end') {
      void looking.catch(failed).finally(() => self.close());
      return;
    }
    const known = picture.format === 'I420' || picture.format === 'NV12';
    looking = (known ? look(picture) : Promise.resolve()).finally(() => picture.close());
    looking.finally(() => setTimeout(() => port.postMessage('next'), EVERY_MS)).catch(failed);
  };
  port.postMessage('next');
};

import { z } from 'zod';

/** How many bytes more this browser stores for the studio, measured. Null where it cannot be measured. */
export function browserRoom(): Promise<number | null> {
  if (!('storage' in navigator)) return Promise.resolve(null);
  const worker = new Worker(new URL('./space.worker.ts', import.meta.url), { type: 'module', name: 'room' });
  return new Promise((resolve) => {
    worker.onmessage = ({ data }: MessageEvent<unknown>) => resolve(z.number().parse(data));
    worker.onerror = () => resolve(null);
  });
}

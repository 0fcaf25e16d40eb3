import { percentile } from '@/core/base/percentile';

/** A fixed piece of work, timed again and again beside the page. */
export type Yardstick = {
  /** Median of the times since the last call, ms; null where there were none. */
  readonly take: () => number | null;
  readonly close: () => void;
};

export function openYardstick(): Yardstick {
  const worker = new Worker(new URL('./yardstick.worker.ts', import.meta.url), {
    type: 'module',
    name: 'yardstick',
  });
  let times: number[] = [];
  worker.onmessage = ({ data }: MessageEvent<number>) => {
    times.push(data);
  };
  return {
    take: () => {
      const taken = times;
      times = [];
      return taken.length > 0 ? percentile(taken, 0.5) : null;
    },
    close: () => worker.terminate(),
  };
}

/** What of ffmpeg’s progress says that it goes on (`-progress`, ffmpeg(1)). */
const GOES_ON = /^(frame|out_time_us|total_size)=/;
/** A machine that slept is one look further, not as long as it slept. */
const LOOKS = 30;

/**
 * Watches an ffmpeg by what it tells of its progress.
 * @param stillMs how long it may go without another frame, instant or byte
 * @returns `told` takes each line; `signal` is aborted when that time is over; `stop` ends the watch
 */
export function watchStill(stillMs: number): {
  told: (line: string) => void;
  signal: AbortSignal;
  stop: () => void;
} {
  const ending = new AbortController();
  const latest = new Map<string, string>();
  let looks = 0;
  const timer = setInterval(() => {
    if (++looks >= LOOKS) ending.abort();
  }, stillMs / LOOKS);
  return {
    told: (line) => {
      const key = GOES_ON.exec(line)?.[1];
      if (!key || latest.get(key) === line) return;
      latest.set(key, line);
      looks = 0;
    },
    signal: ending.signal,
    stop: () => clearInterval(timer),
  };
}

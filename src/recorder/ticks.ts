/** Calls `tick` every 100 ms, also while the page is in the background. @returns ends it */
export function openTicks(tick: () => void): () => void {
  const worker = new Worker(new URL('./ticks.worker.ts', import.meta.url), { type: 'module', name: 'ticks' });
  worker.onmessage = tick;
  return () => worker.terminate();
}

/**
 * Does several things at once. When one fails, or the signal is aborted, all others are ended before that is told.
 * @throws why the signal was aborted, or what the first one that failed has thrown
 */
export async function together(
  signal: AbortSignal,
  tasks: readonly ((signal: AbortSignal) => Promise<void>)[],
): Promise<void> {
  const failed = new AbortController();
  const own = AbortSignal.any([signal, failed.signal]);
  const settled = await Promise.allSettled(
    tasks.map((task) =>
      task(own).catch((error) => {
        failed.abort(error);
        throw error;
      }),
    ),
  );
  signal.throwIfAborted();
  const first: unknown = failed.signal.reason;
  if (settled.some(({ status }) => status === 'rejected')) throw first;
}

/** Does the same with each item, in their order, with so many of them at once. @throws as `together` does */
export function eachOf<T>(
  items: readonly T[],
  atOnce: number,
  signal: AbortSignal,
  work: (item: T, signal: AbortSignal) => Promise<void>,
): Promise<void> {
  const left = items.values();
  const next = async (own: AbortSignal) => {
    for (const item of left) {
      own.throwIfAborted();
      await work(item, own);
    }
  };
  return together(signal, Array(atOnce).fill(next));
}

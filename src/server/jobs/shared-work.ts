/** Work that several may wait for, one piece after the other; outcomes are kept, and what nobody waits for any more is ended. */
export type SharedWork<T> = {
  /**
   * @param key of what it is: who asks for the same gets the same
   * @param work begins when what was asked for before is over
   * @param signal of the one who asks
   * @throws what the work throws; the signal's reason when it is aborted
   */
  ask: (key: string, work: (signal: AbortSignal) => Promise<T>, signal: AbortSignal) => Promise<T>;
  /** The outcome, where it is there; undefined where nobody asked, or it failed. */
  known: (key: string) => T | undefined;
  /** Ends it while it is being made, or waits to be: whoever asked gets an `AbortError`. What is there already stays. */
  end: (key: string) => void;
};

type Entry<T> = {
  outcome: Promise<T>;
  done: { value: T } | null;
  waiting: number;
  ending: AbortController;
};

/** @param most outcomes that are kept; the oldest go first */
export function openSharedWork<T>(most: number): SharedWork<T> {
  const entries = new Map<string, Entry<T>>();
  let turn: Promise<unknown> = Promise.resolve();

  const begin = (key: string, work: (signal: AbortSignal) => Promise<T>): Entry<T> => {
    const ending = new AbortController();
    const outcome = turn.then(() => {
      ending.signal.throwIfAborted();
      return work(ending.signal);
    });
    turn = outcome.catch(() => undefined);
    const entry: Entry<T> = { outcome, ending, done: null, waiting: 0 };
    entries.set(key, entry);
    outcome.then(
      (value) => {
        entry.done = { value };
      },
      // Whoever asks next has it done again.
      () => entries.get(key) === entry && entries.delete(key),
    );
    const [oldest] = entries.keys();
    if (entries.size > most && oldest !== undefined) entries.delete(oldest);
    return entry;
  };

  const end = (key: string, entry: Entry<T>): void => {
    if (entry.done) return;
    entry.ending.abort();
    if (entries.get(key) === entry) entries.delete(key);
  };

  return {
    ask: async (key, work, signal) => {
      signal.throwIfAborted();
      const entry = entries.get(key) ?? begin(key, work);
      const left = new Promise<never>((_, reject) => {
        signal.addEventListener('abort', () => reject(signal.reason), { once: true });
      });
      // It may be aborted when there is nothing to wait for any more.
      left.catch(() => undefined);
      entry.waiting++;
      try {
        return await Promise.race([entry.outcome, left]);
      } finally {
        entry.waiting--;
        if (entry.waiting === 0) end(key, entry);
      }
    },
    known: (key) => entries.get(key)?.done?.value,
    end: (key) => {
      const entry = entries.get(key);
      if (entry) end(key, entry);
    },
  };
}

/** What was, what is and what was undone. Values are never changed, so going back is exact. */
export type History<T> = { past: readonly T[]; now: T; future: readonly T[] };

const MOST = 200;

export const begin = <T>(now: T): History<T> => ({ past: [], now, future: [] });

/** A new state; what had been undone is gone. The same value again is no step. */
export const push = <T>(history: History<T>, next: T): History<T> =>
  next === history.now
    ? history
    : { past: [...history.past, history.now].slice(-MOST), now: next, future: [] };

/** Takes the place of the present state without a step of its own: while a handle is dragged. */
export const replace = <T>(history: History<T>, next: T): History<T> => ({ ...history, now: next });

export function undo<T>(history: History<T>): History<T> {
  const before = history.past.at(-1);
  if (before === undefined) return history;
  return { past: history.past.slice(0, -1), now: before, future: [history.now, ...history.future] };
}

export function redo<T>(history: History<T>): History<T> {
  const [after, ...future] = history.future;
  if (after === undefined) return history;
  return { past: [...history.past, history.now], now: after, future };
}

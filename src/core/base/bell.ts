/** Whoever waits for a bell goes on when it rings next; who comes later waits for the one after. */
export type Bell = { ring: () => void; next: () => Promise<void> };

export function newBell(): Bell {
  let waiting: (() => void)[] = [];
  return {
    ring: () => {
      const woken = waiting;
      waiting = [];
      for (const wake of woken) wake();
    },
    next: () =>
      new Promise((wake) => {
        waiting.push(wake);
      }),
  };
}

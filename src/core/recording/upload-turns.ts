/** A take that waits in a browser to be sent, as the uploader knows it. */
export type WaitingTake = {
  key: string;
  /** ISO 8601; empty where nothing tells it. */
  startedAt: string;
  /** Its turn is running. */
  busy: boolean;
  /** Not before this time: it failed a moment ago. */
  retryAtMs: number;
  /** When its last turn began; 0 for never. */
  turnAtMs: number;
};

/** Two turns run at once: one belongs to the newest take, all others share the other. */
export const OTHER_TURN_MS = 10_000;

const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 15_000;
/** How long a take waits after it failed so many times in a row. */
export const retryDelayMs = (failures: number): number =>
  failures === 0 ? 0 : Math.min(FIRST_WAIT_MS * 2 ** failures, LONGEST_WAIT_MS);

/**
 * Which takes begin a turn now. The newest goes first, whatever holds up the others: it is the one that somebody wants to watch. The
 * rest take turns, the one that has waited longest first, so that none is held up by another that never gets through.
 * @returns keys, at most two
 */
export function nextTurns(takes: readonly WaitingTake[], nowMs: number): string[] {
  const [newest, ...others] = [...takes].sort((a, b) => b.startedAt.localeCompare(a.startedAt));
  const isDue = (take: WaitingTake) => !take.busy && take.retryAtMs <= nowMs;
  const next = others.some(({ busy }) => busy)
    ? []
    : others
        .filter(isDue)
        .sort((a, b) => a.turnAtMs - b.turnAtMs)
        .slice(0, 1);
  return [...(newest && isDue(newest) ? [newest] : []), ...next].map(({ key }) => key);
}

import type { Rig } from '../rig/rig';
import type { Finding } from './finding';

/** What of the findings is shown, and since when the others have been there (ms of any steady clock). */
export type Held = {
  /** The rig that they were found of, and since when. */
  rig: Rig | null;
  rigSinceMs: number;
  shown: ReadonlySet<string>;
  waiting: ReadonlyMap<string, number>;
};
export const NOTHING_HELD: Held = {
  rig: null,
  rigSinceMs: 0,
  shown: new Set(),
  waiting: new Map(),
};

/** What is measured goes up and down: a finding that does not last so long is not worth a sentence. */
export const HOLD_MS = 2000;
/** After a choice, and when a page is opened, sources open and everything is new: what is found then is said at once. */
export const NEW_MS = 3000;

type Found = Pick<Finding, 'id' | 'weight'>;

/**
 * Which findings are shown. One that follows a choice or the opening of the page, and one that keeps a recording from beginning, is
 * shown at once; one that comes from what is measured has to hold for `HOLD_MS` first. One that is not found any more goes at once.
 * @returns `before` itself when nothing has changed
 */
export function holdFindings(before: Held, rig: Rig, found: readonly Found[], nowMs: number): Held {
  const rigSinceMs = before.rig === rig ? before.rigSinceMs : nowMs;
  const isNew = nowMs - rigSinceMs < NEW_MS;
  const shown = new Set<string>();
  const waiting = new Map<string, number>();
  for (const { id, weight } of found) {
    const since = before.waiting.get(id) ?? nowMs;
    if (isNew || weight === 'stop' || before.shown.has(id) || nowMs - since >= HOLD_MS) shown.add(id);
    else waiting.set(id, since);
  }
  const same =
    before.rig === rig &&
    sameKeys(before.shown, shown) &&
    sameKeys(new Set(before.waiting.keys()), new Set(waiting.keys()));
  return same ? before : { rig, rigSinceMs, shown, waiting };
}

/** When the next one has held for long enough; null when none waits. */
export const nextHeldMs = ({ waiting }: Held): number | null =>
  waiting.size === 0 ? null : Math.min(...waiting.values()) + HOLD_MS;

const sameKeys = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean =>
  a.size === b.size && [...a].every((key) => b.has(key));

import { useState } from 'react';
import type { StepId } from '@/core/base/ids';
import type { Cut } from '@/core/cut/cut';

/** How a click selects: Ctrl adds or removes one step, Shift all up to it; a plain click only goes there. */
export type ClickKeys = { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean };

/** The steps of a list that are selected together. Steps that are there no more are not among them. */
export function useStepSelection({ steps }: Pick<Cut, 'steps'>) {
  const [{ ids, last }, set] = useState<{ ids: readonly StepId[]; last: StepId | null }>(NONE);
  const all = steps.map(({ id }) => id);
  const selected = all.filter((id) => ids.includes(id));
  const toggle = (id: StepId) =>
    set({
      ids: selected.includes(id) ? selected.filter((each) => each !== id) : [...selected, id],
      last: id,
    });
  return {
    /** In their order. */
    selected,
    toggle,
    clear: () => set(NONE),
    /** @returns whether the click has selected something */
    click: (id: StepId, { ctrlKey, metaKey, shiftKey }: ClickKeys): boolean => {
      if (shiftKey) set({ ids: [...selected, ...between(all, last ?? id, id)], last: id });
      else if (ctrlKey || metaKey) toggle(id);
      return shiftKey || ctrlKey || metaKey;
    },
  };
}

const NONE = { ids: [], last: null };

/** All from one to another, both ends included, whichever comes first. */
function between(all: readonly StepId[], a: StepId, b: StepId): StepId[] {
  const [from, to] = [all.indexOf(a), all.indexOf(b)].sort((x, y) => x - y) as [number, number];
  return all.slice(Math.max(0, from), to + 1);
}

'use client';

import { useEffect, useMemo, useReducer, useState } from 'react';
import { holdFindings, NOTHING_HELD, nextHeldMs } from '@/core/findings/held-findings';
import type { Finding } from '@/core/findings/preflight';
import type { Rig } from '@/core/rig/rig';

/** The findings that are worth showing: those that do not come and go. */
export function useHeld(rig: Rig, found: readonly Finding[]): Finding[] {
  const [held, setHeld] = useState(NOTHING_HELD);
  const [, lookAgain] = useReducer((n: number) => n + 1, 0);
  const next = holdFindings(held, rig, found, performance.now());
  if (next !== held) setHeld(next);
  useEffect(() => {
    const due = nextHeldMs(next);
    if (due === null) return;
    const timer = setTimeout(lookAgain, Math.max(0, due - performance.now()));
    return () => clearTimeout(timer);
  }, [next]);
  return useMemo(() => found.filter(({ id }) => next.shown.has(id)), [found, next]);
}

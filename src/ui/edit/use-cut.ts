'use client';

import { useMutation } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { LessonId } from '@/core/base/ids';
import { type Problem, problemOf } from '@/core/base/problem';
import type { Cut } from '@/core/cut/cut';
import { begin, type History, push, redo, replace, undo } from '@/core/cut/history';
import { fetchJson } from '../wire/fetch-json';
import { useSame } from '../wire/use-same';

const SAVE_AFTER_MS = 400;

export type CutKeeper = {
  cut: Cut;
  canUndo: boolean;
  canRedo: boolean;
  /** A step that undo takes back; `drag` changes the latest one further instead. */
  change: (next: Cut, how?: 'step' | 'drag') => void;
  undo: () => void;
  redo: () => void;
  saving: boolean;
  /** Whether anything was saved since the page was opened. */
  saved: boolean;
  /** Why the last change is not on the server. */
  problem: Problem | null;
  /** Saves what is not saved yet. */
  flush: () => Promise<void>;
};

/** A lesson's cut with its history, brought to the server a moment after each change. */
export function useCut(lesson: LessonId, initial: Cut, initialRevision: number): CutKeeper {
  const [history, setHistory] = useState<History<Cut>>(() => begin(initial));
  const revision = useRef(initialRevision);
  const [saved, setSaved] = useState(initial);
  /** What the server has or is being told; null after a failure. An answer may be on its way while the next change is made. */
  const told = useRef<Cut | null>(initial);
  /** States that were saved before the page was opened: undo goes back through them when it has no own ones left. */
  const [older, setOlder] = useState(initialRevision > 0);
  const { mutate, mutateAsync, isPending, isSuccess, error } = useMutation({
    // One after another: each save names the revision that the one before it made.
    scope: { id: `cut-${lesson}` },
    mutationFn: async (cut: Cut) => {
      const answer = await fetchJson<{ revision: number }>('PUT', `/api/lessons/${lesson}/cut`, {
        cut,
        revision: revision.current,
      });
      revision.current = answer.revision;
      setSaved(cut);
    },
    onError: () => {
      told.current = null;
    },
    retry: (count, failure) => problemOf(failure).code === 'unreachable' && count < 1000,
    retryDelay: 2000,
  });
  const { now } = history;
  const dirty = now !== saved;
  useEffect(() => {
    if (now === told.current) return;
    const timer = setTimeout(() => {
      told.current = now;
      mutate(now);
    }, SAVE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [now, mutate]);
  useEffect(() => {
    if (!dirty) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [dirty]);
  const change: CutKeeper['change'] = useCallback(
    (next, how = 'step') => setHistory((old) => (how === 'step' ? push(old, next) : replace(old, next))),
    [],
  );
  const acts = useSame({
    undo: () => {
      if (history.past.length > 0 || !older) return setHistory(undo);
      setOlder(false);
      void fetchJson<{ past: Cut[] }>('GET', `/api/lessons/${lesson}/cut/past/${initialRevision}`).then(
        ({ past }) => setHistory((old) => undo({ ...old, past: [...past, ...old.past] })),
        // The server is away: the button comes back.
        () => setOlder(true),
      );
    },
    redo: () => setHistory(redo),
    flush: async () => {
      if (!dirty) return;
      told.current = now;
      await mutateAsync(now);
    },
  });
  const canUndo = history.past.length > 0 || older;
  const canRedo = history.future.length > 0;
  const saving = isPending || dirty;
  // The same object while nothing is another: what shows the cut is not drawn again with every picture that is played.
  return useMemo(
    () => ({
      ...{ cut: now, canUndo, canRedo, change, saving, saved: isSuccess, ...acts },
      problem: error ? problemOf(error) : null,
    }),
    [now, canUndo, canRedo, change, saving, isSuccess, acts, error],
  );
}

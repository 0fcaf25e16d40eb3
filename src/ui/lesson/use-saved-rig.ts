import { useMutation } from '@tanstack/react-query';
import { App } from 'antd';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import type { LessonId } from '@/core/base/ids';
import { problemOf } from '@/core/base/problem';
import type { Rig } from '@/core/rig/rig';
import type { LessonView } from '@/core/views/lesson';
import type { Session } from '@/recorder/session';
import { fetchJson } from '../wire/fetch-json';

const SAVE_AFTER_MS = 500;

type Change = { rig?: Rig; rigRevision?: number; title?: string };
const patch = (id: LessonId, change: Change) => fetchJson<LessonView>('PATCH', `/api/lessons/${id}`, change);

/** A lesson's title and rig: changed here at once, in the session as well, and on the server a moment later. */
export function useSavedRig(initial: LessonView) {
  const { id } = initial;
  const { message } = App.useApp();
  const [lesson, setLesson] = useState(initial);
  const [rig, setRig] = useState(initial.rig);
  const [conflict, setConflict] = useState(false);
  const latest = useRef(rig);
  /** The session as it is now, also for a change that is made before it was drawn. */
  const session = useRef<Session | null>(null);
  const follow = useCallback((next: Session | null) => {
    session.current = next;
  }, []);
  /** Of the rig that this tab last saved or read: whoever saved since is not overwritten. */
  const revision = useRef(initial.rigRevision);
  const { mutate } = useMutation({
    // One after the other: each names the revision that the one before it made.
    scope: { id: `lesson-${id}` },
    mutationFn: (change: Omit<Change, 'rigRevision'>) =>
      patch(id, { ...change, ...(change.rig && { rigRevision: revision.current }) }),
    onSuccess: ({ title, rigRevision }) => {
      revision.current = rigRevision;
      setLesson((old) => ({ ...old, title }));
    },
    onError: (error) => {
      const problem = problemOf(error);
      if (problem.code === 'conflict' && problem.field === 'rig') setConflict(true);
      else message.error(`Not saved. ${problem.message}`);
    },
  });
  const saveSoon = useSavedSoon(id, latest, revision, mutate);
  const changeRig = useCallback(
    (change: (rig: Rig) => Rig) => {
      latest.current = change(latest.current);
      setRig(latest.current);
      session.current?.setRig(latest.current);
      saveSoon();
    },
    [saveSoon],
  );
  return {
    ...{ lesson, rig, latest, changeRig, conflict, follow },
    rename: (title: string) => mutate({ title }),
    /** Keeps what this tab has, whoever has saved another. */
    keepOurs: async () => {
      revision.current = (await patch(id, { rig: latest.current })).rigRevision;
      setConflict(false);
    },
  };
}

/** Saves when nothing was changed for a moment; what was changed in the last one before the page is left is sent on the way out. */
function useSavedSoon(
  id: LessonId,
  latest: RefObject<Rig>,
  revision: RefObject<number>,
  save: (change: { rig: Rig }) => void,
): () => void {
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    const leave = () => {
      if (timer.current === undefined) return;
      clearTimeout(timer.current);
      timer.current = undefined;
      void patch(id, { rig: latest.current, rigRevision: revision.current }).catch(() => undefined);
    };
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [id, latest, revision]);
  return useCallback(() => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => {
      timer.current = undefined;
      save({ rig: latest.current });
    }, SAVE_AFTER_MS);
  }, [latest, save]);
}

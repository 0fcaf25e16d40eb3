'use client';

import { useMutation } from '@tanstack/react-query';
import { App } from 'antd';
import { usePathname } from 'next/navigation';
import { createContext, type ReactNode, useCallback, useContext, useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { problemOf } from '@/core/base/problem';
import type { Rig } from '@/core/rig/rig';
import { type LessonView, STAGES, type Stage } from '@/core/views/lesson';
import { ARRANGED, type Arrangement } from '@/practice/desk/arrangement';
import { keptSession, showSession } from '@/recorder/live-session';
import { createSession, type Session } from '@/recorder/session';
import { recordingProblem } from '@/recorder/sources';
import { startUploader } from '@/recorder/uploader/uploader';
import { EditableTitle } from '../fields/editable-title';
import type { Light } from '../look/light';
import { Bank } from '../page/bank';
import { SteppingStones } from '../page/stones';
import { fetchJson } from '../wire/fetch-json';
import { RigConflict } from './rig-conflict';

type Room = {
  lesson: LessonView;
  rig: Rig;
  /** Changes the rig at once; the server gets it a moment later. */
  changeRig: (change: (rig: Rig) => Rig) => void;
  /** Null until the page is alive, and in browsers that cannot record. */
  session: Session | null;
  /** Tells that a stage has just left something: its stone is ticked at once, though this layout stays as the server drew it. */
  leaves: (stage: Stage) => void;
};

const RoomContext = createContext<Room | null>(null);

export function useRoom(): Room {
  const room = useContext(RoomContext);
  if (!room) throw new Error('Only inside a lesson.');
  return room;
}

/** Before there is a session. */
const NO_SESSION: Session['store'] = createStore(() => ({ states: {}, arrangement: ARRANGED }));

/** The sources of the session, as they are now. */
export const useSourceStates = (session: Session | null) =>
  useStore(session?.store ?? NO_SESSION, ({ states }) => states);

/** Where the windows of the practice displays stand. */
export const useArrangement = (session: Session | null): Arrangement =>
  useStore(session?.store ?? NO_SESSION, ({ arrangement }) => arrangement);

const SAVE_AFTER_MS = 500;

/** Holds what the stages of one lesson share: its rig, and the sources that stay open from set-up to recording. */
export function LessonRoom({
  lesson: initial,
  light,
  children,
}: {
  lesson: LessonView;
  light: Light;
  children: ReactNode;
}) {
  const { message } = App.useApp();
  const [lesson, setLesson] = useState(initial);
  const [rig, setRig] = useState(initial.rig);
  const [session, setSession] = useState<Session | null>(null);
  const [left, setLeft] = useState<readonly Stage[]>([]);
  const leaves = useCallback(
    (stage: Stage) => setLeft((old) => (old.includes(stage) ? old : [...old, stage])),
    [],
  );
  const latest = useRef(rig);
  const title = useRef(initial.title);
  /** The session as it is now, also for a change that is made before it was drawn. */
  const recording = useRef<Session | null>(null);
  const here = (usePathname()?.split('/').pop() ?? 'set-up') as Stage;
  /** Of the rig that this tab last saved or read: whoever saved since is not overwritten. */
  const revision = useRef(initial.rigRevision);
  const [conflict, setConflict] = useState(false);
  const save = useMutation({
    // One after the other: each names the revision that the one before it made.
    scope: { id: `lesson-${initial.id}` },
    mutationFn: (change: { rig?: Rig; title?: string }) =>
      fetchJson<LessonView>('PATCH', `/api/lessons/${initial.id}`, {
        ...change,
        ...(change.rig && { rigRevision: revision.current }),
      }),
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

  // Cameras and microphones are open only where they are of use.
  const live = here !== 'edit' && here !== 'hand-over';
  useEffect(() => {
    startUploader();
    if (!live || recordingProblem()) return;
    // One that was left while it recorded is shown again.
    const opened = keptSession(initial.id) ?? createSession(initial.id, latest.current);
    const leave = showSession(opened, { id: initial.id, title: title.current });
    recording.current = opened;
    setSession(opened);
    return () => {
      leave();
      recording.current = null;
      setSession(null);
    };
  }, [initial.id, live]);

  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const { mutate } = save;
  const changeRig = useCallback(
    (change: (rig: Rig) => Rig) => {
      latest.current = change(latest.current);
      setRig(latest.current);
      recording.current?.setRig(latest.current);
      clearTimeout(timer.current);
      timer.current = setTimeout(() => {
        timer.current = undefined;
        mutate({ rig: latest.current });
      }, SAVE_AFTER_MS);
    },
    [mutate],
  );

  // What was changed in the last moment before the page is left is sent on the way out.
  useEffect(() => {
    const leave = () => {
      if (timer.current === undefined) return;
      clearTimeout(timer.current);
      timer.current = undefined;
      const change = { rig: latest.current, rigRevision: revision.current };
      void fetchJson('PATCH', `/api/lessons/${initial.id}`, change).catch(() => undefined);
    };
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [initial.id]);

  return (
    <RoomContext.Provider value={{ lesson, rig, changeRig, session, leaves }}>
      <Bank
        light={light}
        title={
          <EditableTitle
            heading="h1"
            of="the lesson"
            title={lesson.title}
            onChange={(title) => mutate({ title })}
          />
        }
      >
        <SteppingStones
          lesson={{ ...lesson, done: [...initial.done, ...left] }}
          here={STAGES.some(({ key }) => key === here) ? here : 'set-up'}
        />
      </Bank>
      {conflict && (
        <RigConflict
          onKeep={async () => {
            const { rigRevision } = await fetchJson<LessonView>('PATCH', `/api/lessons/${initial.id}`, {
              rig: latest.current,
            });
            revision.current = rigRevision;
            setConflict(false);
          }}
        />
      )}
      {children}
    </RoomContext.Provider>
  );
}

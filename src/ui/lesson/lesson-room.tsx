'use client';

import { usePathname } from 'next/navigation';
import {
  createContext,
  type ReactNode,
  type RefObject,
  useCallback,
  useContext,
  useEffect,
  useRef,
  useState,
} from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
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
import { RigConflict } from './rig-conflict';
import { useSavedRig } from './use-saved-rig';

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
  const [left, setLeft] = useState<readonly Stage[]>([]);
  const leaves = useCallback(
    (stage: Stage) => setLeft((old) => (old.includes(stage) ? old : [...old, stage])),
    [],
  );
  const here = (usePathname()?.split('/').pop() ?? 'set-up') as Stage;
  const { lesson, rig, latest, changeRig, rename, conflict, keepOurs, follow } = useSavedRig(initial);
  // Cameras and microphones are open only where they are of use.
  const live = here !== 'edit' && here !== 'hand-over';
  const session = useLessonSession(initial, live, latest, follow);
  return (
    <RoomContext.Provider value={{ lesson, rig, changeRig, session, leaves }}>
      <Bank
        light={light}
        title={<EditableTitle heading="h1" of="the lesson" title={lesson.title} onChange={rename} />}
      >
        <SteppingStones
          lesson={{ ...lesson, done: [...initial.done, ...left] }}
          here={STAGES.some(({ key }) => key === here) ? here : 'set-up'}
        />
      </Bank>
      {conflict && <RigConflict onKeep={keepOurs} />}
      {children}
    </RoomContext.Provider>
  );
}

/**
 * The session of a lesson while one of its live stages is shown.
 * @param latest the rig as it is when a session is opened
 * @param follow is told the session, for changes that are made before it was drawn
 */
function useLessonSession(
  { id, title }: LessonView,
  live: boolean,
  latest: RefObject<Rig>,
  follow: (session: Session | null) => void,
): Session | null {
  const [session, setSession] = useState<Session | null>(null);
  const named = useRef(title);
  useEffect(() => {
    startUploader();
    if (!live || recordingProblem()) return;
    // One that was left while it recorded is shown again.
    const opened = keptSession(id) ?? createSession(id, latest.current);
    const leave = showSession(opened, { id, title: named.current });
    follow(opened);
    setSession(opened);
    return () => {
      leave();
      follow(null);
      setSession(null);
    };
  }, [id, live, latest, follow]);
  return session;
}

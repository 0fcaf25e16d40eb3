'use client';

import { useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { LessonId } from '@/core/base/ids';
import { type LiveSession, liveSessions } from '@/recorder/live-session';
import {
  openRecordingChannel,
  type RecordingChannel,
  type RecordingNews,
  SILENT_MS,
} from '@/recorder/recording-channel';

/** A recording that runs in this browser. */
export type LiveRecording = {
  where: 'this-tab' | 'other-tab';
  lesson: { id: LessonId; title: string };
  paused: boolean;
  elapsedUs: number;
  stop: () => void;
};

const TELL_EVERY_MS = 1000;

/** What records now, in this tab or in another one; null when nothing does. */
export function useLiveRecording(): LiveRecording | null {
  const live = useStore(liveSessions, (sessions) => sessions.live);
  const [other, setOther] = useState<RecordingNews | null>(null);
  const channel = useRef<RecordingChannel | null>(null);
  const silence = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    const opened = openRecordingChannel(
      (news) => {
        clearTimeout(silence.current);
        setOther(news.state === 'ended' ? null : news);
        silence.current = setTimeout(() => setOther(null), SILENT_MS);
      },
      () => liveSessions.getState().live?.session.actor.send({ type: 'STOP' }),
    );
    channel.current = opened;
    return () => {
      clearTimeout(silence.current);
      opened.close();
    };
  }, []);
  const own = useOwnRecording(live, channel);
  if (own) return own;
  if (!other) return null;
  return {
    where: 'other-tab',
    lesson: other.lesson,
    paused: other.state === 'paused',
    elapsedUs: other.elapsedUs,
    stop: () => channel.current?.stop(other.tab),
  };
}

/** The recording of this tab; the other tabs hear of it each second. */
function useOwnRecording(
  live: LiveSession | null,
  channel: { current: RecordingChannel | null },
): LiveRecording | null {
  const [shown, setShown] = useState({ paused: false, elapsedUs: 0 });
  const session = live?.session ?? null;
  const lesson = live?.lesson;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the session tells what changed; its lesson is the same all the time
  useEffect(() => {
    if (!session || !lesson) return;
    let toldAt = 0;
    let before = '';
    // Figures come from a worker, so that they come in time also while the tab is in the background.
    const { unsubscribe } = session.actor.subscribe((state) => {
      const paused = state.matches({ taking: 'paused' });
      const elapsedUs = state.context.figures?.elapsedUs ?? 0;
      const text = `${paused} ${Math.floor(elapsedUs / 1e6)}`;
      if (text !== before) setShown({ paused, elapsedUs });
      before = text;
      if (Date.now() - toldAt < TELL_EVERY_MS) return;
      toldAt = Date.now();
      channel.current?.tell({ state: paused ? 'paused' : 'recording', lesson, elapsedUs });
    });
    return () => {
      unsubscribe();
      channel.current?.tell({ state: 'ended', lesson, elapsedUs: 0 });
    };
  }, [session]);
  if (!session || !lesson) return null;
  return { where: 'this-tab', lesson, ...shown, stop: () => session.actor.send({ type: 'STOP' }) };
}

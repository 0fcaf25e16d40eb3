'use client';

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useSelector } from '@xstate/react';
import { useEffect, useRef, useState } from 'react';
import type { LessonId, ScheduleId } from '@/core/base/ids';
import { problemOf } from '@/core/base/problem';
import type { ScheduleChange, ScheduledView, ScheduleInput } from '@/core/recording/schedule';
import type { Session } from '@/recorder/session';
import { fetchJson } from '../wire/fetch-json';

const LOOK_EVERY_MS = 5000;
const AGAIN_MS = 2000;
/** A take whose time has just passed while another was being closed still begins. */
const LATE_MS = 30_000;

/** A lesson's list of scheduled takes. */
export function useScheduled(lesson: LessonId) {
  const queries = useQueryClient();
  const queryKey = ['scheduled', lesson];
  const { data } = useQuery({
    queryKey,
    queryFn: () => fetchJson<ScheduledView[]>('GET', `/api/lessons/${lesson}/scheduled`),
    refetchInterval: LOOK_EVERY_MS,
  });
  const again = () => queries.invalidateQueries({ queryKey });
  /** Started here, whether the studio has heard of it or not: none is recorded twice. */
  const [begun, setBegun] = useState<ReadonlySet<ScheduleId>>(new Set());
  // Said again until the studio has heard it: a take that was started must never be called missed.
  const { mutateAsync } = useMutation({
    mutationFn: ({ id, ...change }: Told) => fetchJson('PATCH', `/api/scheduled/${id}`, change),
    onSettled: again,
    retry: (_, failure) => problemOf(failure).code === 'unreachable',
    retryDelay: AGAIN_MS,
  });
  return {
    list: (data ?? []).filter(({ id }) => !begun.has(id)),
    add: async (input: ScheduleInput) => {
      await fetchJson('POST', `/api/lessons/${lesson}/scheduled`, input);
      await again();
    },
    change: async (id: ScheduleId, change: Omit<Told, 'id'>) => {
      if (change.state === 'started') setBegun((before) => new Set([...before, id]));
      await mutateAsync({ id, ...change });
    },
  };
}

type Told = { id: ScheduleId } & Partial<ScheduleChange> & Pick<ScheduleChange, 'state'>;

/**
 * Arms the session for the first take of the list, and for the next one when that is over. One that cannot start at its time leaves
 * its reason in the lesson.
 * @param stop why nothing can be recorded now; null when it can
 */
export function useKeepingTo(
  session: Session,
  { list, change }: ReturnType<typeof useScheduled>,
  stop: string | null,
): void {
  const { actor } = session;
  const armed = useSelector(actor, (state) => state.matches('armed'));
  const countdown = useSelector(actor, (state) => state.matches('countdown') && state.context.scheduled);
  const startAtMs = useSelector(actor, ({ context }) => context.startAtMs);
  const takeId = useSelector(actor, ({ context }) => context.takeId);
  const taking = useSelector(actor, (state) => state.matches('taking'));
  /** What the session is armed for or records. */
  const current = useRef<ScheduledView | null>(null);
  const [next] = list.filter(({ state }) => state === 'waiting');

  useEffect(() => {
    if (!armed || !next) return;
    if (current.current?.id === next.id) {
      // It was counted down to, and the session is armed again: somebody cancelled it, or it could not begin.
      current.current = null;
      const { problem } = actor.getSnapshot().context;
      void change(
        next.id,
        problem
          ? { state: 'missed', problem: `It could not start: ${problem.message}` }
          : { state: 'cancelled' },
      );
      return;
    }
    const late = Date.now() - next.startAtMs;
    if (stop) {
      // Nothing can be recorded now; at its time that is said in the lesson.
      if (late < 0) {
        const timer = setTimeout(
          () => void change(next.id, { state: 'missed', problem: `It could not start: ${stop}` }),
          -late,
        );
        return () => clearTimeout(timer);
      }
      void change(next.id, { state: 'missed', problem: `It could not start: ${stop}` });
      return;
    }
    if (late > LATE_MS) return;
    current.current = next;
    actor.send({ type: 'RECORD', startAtMs: next.startAtMs, stopAtMs: next.stopAtMs, scheduled: true });
  }, [armed, next, stop, actor, change]);

  // Taken off the list while the session counts down to it, or one that begins earlier was put there.
  const nextId = next?.id;
  useEffect(() => {
    if (countdown && current.current && nextId !== current.current.id) actor.send({ type: 'CANCEL' });
  }, [countdown, nextId, actor]);

  useEffect(() => {
    const of = current.current;
    if (!taking || !takeId || of?.startAtMs !== startAtMs) return;
    current.current = null;
    void change(of.id, { state: 'started', takeId });
  }, [taking, takeId, startAtMs, change]);
}

'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useSelector } from '@xstate/react';
import { useEffect } from 'react';
import type { RehearsalId } from '@/core/base/ids';
import type { RehearsalTrace } from '@/core/rehearsal/frame-trace';
import type { RehearsalView } from '@/core/rehearsal/rehearsal';
import type { Rehearsal } from '@/recorder/rehearsal/rehearse';
import type { Session } from '@/recorder/session';
import { fetchJson } from '../wire/fetch-json';
import { useTold } from '../wire/use-told';
import { useRoom } from './lesson-room';

const NONE: RehearsalView[] = [];

/** The ledger of the lesson, the newest first; null until it is there. */
export function useRehearsals(): RehearsalView[] | null {
  const { lesson } = useRoom();
  const { data, isPending } = useQuery({
    queryKey: ['rehearsals', lesson.id],
    queryFn: () => fetchJson<RehearsalView[]>('GET', `/api/lessons/${lesson.id}/rehearsals`),
  });
  return isPending ? null : (data ?? NONE);
}

/** Every frame of a rehearsal; null until it is there. */
export function useTrace(id: RehearsalId | null): RehearsalTrace | null {
  const { lesson } = useRoom();
  const { data } = useQuery({
    queryKey: ['rehearsal', id],
    enabled: id !== null,
    // What was measured never changes.
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => fetchJson<RehearsalTrace>('GET', `/api/lessons/${lesson.id}/rehearsals/${id}`),
  });
  return data ?? null;
}

/** Puts each rehearsal of this page into the ledger. @returns the newest, whose film can still be watched */
export function useKeptRehearsal(session: Session): Rehearsal | null {
  const { lesson, leaves } = useRoom();
  const client = useQueryClient();
  const told = useTold();
  const rehearsal = useSelector(session.actor, ({ context }) => context.rehearsal);
  useEffect(() => {
    if (!rehearsal) return;
    const { report } = rehearsal;
    client.setQueryData(['rehearsal', report.id], report.trace);
    void told(
      fetchJson<RehearsalView>('POST', `/api/lessons/${lesson.id}/rehearsals`, report).then(async () => {
        leaves('rehearse');
        await client.invalidateQueries({ queryKey: ['rehearsals', lesson.id] });
      }),
    );
  }, [rehearsal, lesson.id, client, told, leaves]);
  return rehearsal;
}

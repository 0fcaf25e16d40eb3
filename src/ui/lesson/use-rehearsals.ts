'use client';

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
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
const RETRY_MS = 2000;

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
  const { mutateAsync } = useMutation({
    mutationFn: ({ report }: Rehearsal) =>
      fetchJson<RehearsalView>('POST', `/api/lessons/${lesson.id}/rehearsals`, report),
    // Sent twice it is there once: a server that is just being restarted is worth waiting for.
    ...{ retry: 5, retryDelay: RETRY_MS },
    onSuccess: async () => {
      leaves('rehearse');
      await client.invalidateQueries({ queryKey: ['rehearsals', lesson.id] });
    },
  });
  useEffect(() => {
    if (!rehearsal) return;
    client.setQueryData(['rehearsal', rehearsal.report.id], rehearsal.report.trace);
    void told(mutateAsync(rehearsal));
  }, [rehearsal, client, told, mutateAsync]);
  return rehearsal;
}

'use client';

import { App } from 'antd';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { z } from 'zod';
import { IncomingId } from '@/core/base/ids';
import { problemOf } from '@/core/base/problem';
import type { IncomingView } from '@/core/views/incoming';
import { useRoom } from '../lesson/lesson-room';
import { fetchJson } from '../wire/fetch-json';
import { sendFile } from '../wire/send-file';
import { isOver } from '../wire/use-job';

/** A file that is not with the server yet. */
export type Sending = { name: string; share: number; ending: AbortController };

const Answer = z.object({ id: IncomingId });

/**
 * A file's way into a lesson: sent, made into a take by a job, and added where the playhead was when it was chosen.
 * @param incoming what was on its way when the page was drawn: its job is followed on
 * @param flush saves what was edited meanwhile: it is not lost with the page that shows the new take
 */
export function useIncoming(props: {
  incoming: readonly IncomingView[];
  placeUs: () => number;
  flush: () => Promise<void>;
}) {
  const { lesson } = useRoom();
  const router = useRouter();
  const { message } = App.useApp();
  const [sending, setSending] = useState<Sending | null>(null);
  const [making, setMaking] = useState<IncomingView | null>(props.incoming[0] ?? null);
  const handled = useRef(new Set<IncomingId>());
  const told = (name: string, text: string) => void message.error(`${name}: ${text}`, 10);

  const bring = async (file: File) => {
    const ending = new AbortController();
    const onSent = (share: number) => setSending({ name: file.name, share, ending });
    const query = new URLSearchParams({
      lesson: lesson.id,
      name: file.name,
      at: String(Math.round(props.placeUs())),
    });
    onSent(0);
    try {
      const { id } = Answer.parse(await sendFile(`/api/bring?${query}`, file, onSent, ending.signal));
      setMaking(await fetchJson<IncomingView>('GET', `/api/incoming/${id}`));
    } catch (error) {
      if (ending.signal.aborted) return;
      const { message: what, hint } = problemOf(error);
      told(file.name, hint ? `${what} ${hint}` : what);
    } finally {
      setSending(null);
    }
  };

  /** Its job seems to be over: reads what became of it, and adds the take. */
  const look = async () => {
    if (!making) return;
    // A server that is away is asked again.
    const file = await fetchJson<IncomingView>('GET', `/api/incoming/${making.id}`).catch(() => null);
    if (!file || !isOver(file.job) || handled.current.has(file.id)) return;
    handled.current.add(file.id);
    const { name, take, atUs, pages, job } = file;
    if (job.state === 'done') {
      await props.flush();
      const added = new URLSearchParams({ brought: take, at: String(atUs), pages: String(pages ?? 0) });
      router.push(`/lessons/${lesson.id}/edit?${added}`);
      router.refresh();
    } else if (job.problem) told(name, job.problem);
    setMaking(null);
  };

  return { sending, making, bring, look: () => void look(), leave: () => setMaking(null) };
}

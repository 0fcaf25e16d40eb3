import { useEffect, useState } from 'react';
import type { JobView } from '@/core/take-page';

export const isOver = (job: JobView | null): boolean => job?.state !== 'waiting' && job?.state !== 'running';

const ASK_AGAIN_MS = 2000;

/** A job, followed by server-sent events until it is over. @param from its events */
export function useJob(from: string, known: JobView | null, onOver: () => void): JobView | null {
  const [job, setJob] = useState(known);
  const over = isOver(known);
  useEffect(() => {
    setJob(known);
  }, [known]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: `onOver` is new at each drawing and always does the same
  useEffect(() => {
    if (over) return;
    let events: EventSource;
    let again: ReturnType<typeof setTimeout> | undefined;
    const open = () => {
      events = new EventSource(from);
      events.onmessage = ({ data }) => {
        const next = JSON.parse(data) as JobView | null;
        setJob(next);
        if (!isOver(next)) return;
        events.close();
        onOver();
      };
      // A browser asks again by itself when a connection breaks, but never after an answer that was an error.
      events.onerror = () => {
        if (events.readyState === EventSource.CLOSED) again = setTimeout(open, ASK_AGAIN_MS);
      };
    };
    open();
    return () => {
      clearTimeout(again);
      events.close();
    };
  }, [from, over]);
  return job;
}

import { useEffect, useState } from 'react';
import type { JobView } from '@/core/views/take-page';

export const isOver = (job: JobView | null): boolean => job?.state !== 'waiting' && job?.state !== 'running';

const ASK_AGAIN_MS = 2000;
const LOOK_AGAIN_MS = 1000;

/**
 * A job, followed by server-sent events until it is over.
 * @param from its events
 * @param known what the page was drawn with
 * @param onOver draws the page again
 */
export function useJob(from: string, known: JobView | null, onOver: () => void): JobView | null {
  const [job, setJob] = useState(known);
  // A page that was drawn again may know less than the last event said: it is followed again from what it knows.
  // biome-ignore lint/correctness/useExhaustiveDependencies: `onOver` is new at each drawing and always does the same
  useEffect(() => {
    setJob(known);
    if (isOver(known)) return;
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
      // A browser asks again automatically when a connection breaks, but never after an answer that was an error.
      events.onerror = () => {
        if (events.readyState === EventSource.CLOSED) again = setTimeout(open, ASK_AGAIN_MS);
      };
    };
    open();
    return () => {
      clearTimeout(again);
      events.close();
    };
  }, [from, known]);
  // A drawing that meets another one under way is dropped, so it is asked for until the page knows what the job does.
  const behind = isOver(job) && !isOver(known);
  // biome-ignore lint/correctness/useExhaustiveDependencies: as above
  useEffect(() => {
    if (!behind) return;
    const timer = setInterval(onOver, LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [behind]);
  return job;
}

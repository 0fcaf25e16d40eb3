import { useEffect, useState } from 'react';
import type { JobView } from '@/core/take-page';

export const isOver = (job: JobView | null): boolean => job?.state !== 'waiting' && job?.state !== 'running';

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
    const events = new EventSource(from);
    events.onmessage = ({ data }) => {
      const next = JSON.parse(data) as JobView | null;
      setJob(next);
      if (!isOver(next)) return;
      events.close();
      onOver();
    };
    return () => events.close();
  }, [from, over]);
  return job;
}

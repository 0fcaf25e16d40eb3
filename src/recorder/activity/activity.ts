import type { Activity } from '@/core/layout/activity';
import type { Session } from '../session';

/** Follows where the picture that a session captures changes. @returns what ends it */
export function followActivity(session: Session, onActivity: (activity: Activity) => void): () => void {
  const worker = new Worker(new URL('./activity.worker.ts', import.meta.url), {
    type: 'module',
    name: 'activity',
  });
  const { port1, port2 } = new MessageChannel();
  session.sample('screen', port1);
  worker.onmessage = ({ data }: MessageEvent<Activity>) => onActivity(data);
  worker.postMessage({ port: port2 }, [port2]);
  return () => worker.postMessage({ last: true });
}

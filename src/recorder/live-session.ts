import { createStore } from 'zustand/vanilla';
import type { LessonId, TakeId } from '@/core/base/ids';
import type { Session } from './session';

/**
 * The sessions of this tab, whatever page is shown. A lesson's page hands its session over when it is left in the middle of a take, and
 * gets it back when it is opened again: nothing records without a page that shows it, and no page ends a take by accident.
 */
export type LiveSession = { session: Session; lesson: { id: LessonId; title: string } };

/** `kept`: no page of its lesson is shown; it is closed here when its take has ended. */
type Entry = LiveSession & { kept: boolean };

const entries = new Set<Entry>();

/** The session that records in this tab, if one does, and the last take that has ended while no page showed its lesson. */
export const liveSessions = createStore<{
  live: LiveSession | null;
  ended: { take: TakeId; lesson: string } | null;
}>(() => ({ live: null, ended: null }));

const notify = () =>
  liveSessions.setState({ live: [...entries].find(({ session }) => isBusy(session)) ?? null });

/** Whether a take would be cut off if the session were closed now. */
export const isBusy = ({ actor }: Pick<Session, 'actor'>): boolean => {
  const state = actor.getSnapshot();
  return (
    state.matches('starting') ||
    state.matches('taking') ||
    state.matches('stopping') ||
    state.matches('discarding')
  );
};

/**
 * Makes a lesson's session known to every page while a page of the lesson is shown.
 * @returns what to call when that page is left: the session is closed, at once or when its take has ended
 */
export function showSession(session: Session, lesson: LiveSession['lesson']): () => void {
  for (const entry of entries) if (entry.session === session) entries.delete(entry);
  const entry: Entry = { session, lesson, kept: false };
  entries.add(entry);
  const forget = () => {
    subscription.unsubscribe();
    entries.delete(entry);
    session.close();
    notify();
  };
  const subscription = session.actor.subscribe((state) => {
    if (!entries.has(entry)) return subscription.unsubscribe();
    notify();
    if (!entry.kept || isBusy(session)) return;
    const take = state.matches('stopped') ? state.context.takeId : null;
    forget();
    if (take) liveSessions.setState({ ended: { take, lesson: lesson.title } });
  });
  notify();
  return () => {
    if (!isBusy(session)) return forget();
    entry.kept = true;
    notify();
  };
}

/** The session of a lesson that still records, for its page to show again. */
export const keptSession = (lesson: LessonId): Session | null =>
  [...entries].find((entry) => entry.kept && entry.lesson.id === lesson)?.session ?? null;

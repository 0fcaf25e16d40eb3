import { rename, rm } from 'node:fs/promises';
import { type IncomingId, type LessonId, newIncomingId, newTakeId } from '@/core/base/ids';
import type { IncomingView } from '@/core/views/incoming';
import { Incoming, Job, Lesson } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';
import { lease } from '../jobs/lease';
import { order } from '../jobs/queue';
import { incomingPath } from '../media/media-folder';
import { jobView } from '../takes/progress';

/** Takes over a file that has arrived, and orders that a take is made of it. @param path it is moved from here */
export async function orderIncoming(
  lessonId: LessonId,
  path: string,
  name: string,
  atUs: number,
): Promise<IncomingView> {
  const em = await unitOfWork();
  const lesson = found(await em.findOne(Lesson, { id: lessonId, deletedAt: null }), 'lesson');
  const id = newIncomingId();
  await rename(path, incomingPath(id));
  const incoming = em.create(Incoming, { id, lesson, name, atUs, takeId: newTakeId() });
  const job = em.create(Job, {
    ...{ subject: id, kind: 'bring-file', state: 'waiting', progress: 0 },
    step: 'Waiting for a worker',
  });
  await em.flush();
  await order('bring-file', id);
  return view(incoming, job);
}

/** A file that was brought in, with how far it is. @throws {ProblemError} `not-found` */
export async function readIncoming(id: IncomingId): Promise<IncomingView> {
  const em = await unitOfWork();
  const incoming = found(await em.findOne(Incoming, { id }), 'file');
  return view(incoming, found(await jobOf(id), 'file'));
}

/** Files of a lesson that are not a take yet, the oldest first: a page that is opened again goes on following them. */
export async function unfinishedIncoming(lesson: LessonId): Promise<IncomingView[]> {
  const em = await unitOfWork();
  const all = await em.find(Incoming, { lesson }, { orderBy: { createdAt: 'asc' } });
  const subject = all.map(({ id }) => id);
  const jobs = await em.find(Job, { kind: 'bring-file', subject, state: [...UNFINISHED] });
  return all.flatMap((each) => jobs.filter((job) => job.subject === each.id).map((job) => view(each, job)));
}

/** Ends a file's job; nothing of it stays in the studio. A take that is made already stays. @throws {ProblemError} `not-found` */
export async function cancelIncoming(id: IncomingId): Promise<IncomingView> {
  const em = await unitOfWork();
  const cancelled = await em.nativeUpdate(
    Job,
    { subject: id, kind: 'bring-file', state: [...UNFINISHED] },
    { state: 'cancelled', step: 'Cancelled' },
  );
  // Whoever is at it sees it within a moment and clears up after itself; what waits has nobody.
  const held = cancelled > 0 ? await lease(id) : null;
  if (held) await removeIncoming(id).finally(held.release);
  return readIncoming(id);
}

/** Removes a file that became nothing, with what was made of it. Whoever brought it has it. */
export async function removeIncoming(id: IncomingId): Promise<void> {
  await rm(incomingPath(id), { force: true });
  await rm(`${incomingPath(id)}.parts`, { recursive: true, force: true });
}

/** Whether a file of that name still waits to become a take, however long no worker came. */
export async function isExpected(id: IncomingId): Promise<boolean> {
  const job = await jobOf(id);
  return job !== null && isUnfinished(job);
}

const jobOf = async (id: IncomingId) =>
  (await unitOfWork()).findOne(Job, { subject: id, kind: 'bring-file' });
const UNFINISHED = ['waiting', 'running'] as const;
const isUnfinished = ({ state }: Job) => UNFINISHED.some((each) => each === state);

const view = ({ id, name, atUs, takeId, pages }: Incoming, job: Job): IncomingView => ({
  ...{ id, name, atUs, take: takeId, pages: pages ?? null },
  job: jobView(job),
});

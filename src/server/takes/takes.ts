import { z } from 'zod';
import { Treatment } from '@/core/audio/treatment';
import type { TakeId } from '@/core/base/ids';
import { FROM_A_FILE } from '@/core/recording/brought-in';
import { BY_ITSELF, byItself } from '@/core/recording/by-itself';
import { stagesDone, takeTitle } from '@/core/views/lesson';
import type { TakePage } from '@/core/views/take-page';
import { Job, Take, TakeEventRow } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';
import { order } from '../jobs/queue';
import { leftOf } from '../lessons/left';
import { takeView } from '../lessons/lessons';
import { shareOfTake } from '../sharing/links';
import { arrivalOf } from './arrival';
import { jobView } from './progress';
import { writeTakeDocument } from './take-document';
import { takeCopies, takeFiles } from './take-files';

export const TakeChange = z
  .object({
    title: z.string().trim().min(1, 'a take needs a name').max(200),
    deleted: z.boolean(),
    /** Playback is reprocessed with it; null returns to the rig's. */
    treatment: Treatment.nullable(),
  })
  .partial()
  .refine((change) => Object.keys(change).length > 0, 'nothing to change was given');

/** Renames a take, hides it (undone by the same call), or treats its voice in another way. */
export async function changeTake(id: TakeId, change: z.infer<typeof TakeChange>): Promise<{ title: string }> {
  const em = await unitOfWork();
  const take = found(await em.findOne(Take, { id }), 'take');
  if (change.title !== undefined) take.title = change.title;
  if (change.deleted !== undefined) take.deletedAt = change.deleted ? new Date() : null;
  if (change.treatment !== undefined) take.treatment = change.treatment;
  await em.flush();
  if (change.treatment !== undefined) await setFinishing(id, true);
  if (change.title !== undefined) await writeTakeDocument(id);
  return { title: takeTitle(take) };
}

/**
 * Everything the take's page and player need.
 * @param from a cut goes on showing a take that was deleted
 * @returns null when there is none, or it is deleted
 */
export async function readTake(
  id: TakeId,
  from: 'not deleted' | 'also from the bin' = 'not deleted',
): Promise<TakePage | null> {
  const em = await unitOfWork();
  const where = from === 'not deleted' ? { id, deletedAt: null } : { id };
  const take = await em.findOne(Take, where, { populate: ['tracks.segments', 'lesson'] });
  if (!take) return null;
  const job = await em.findOne(Job, { subject: id, kind: 'finish-take' });
  const segments = take.tracks.getItems().flatMap((track) =>
    track.segments.getItems().map((segment) => ({
      id: segment.id,
      track: track.kind,
      index: segment.index,
      startUs: segment.startUs,
      configuration: segment.configuration,
      encoderDelayUs: segment.encoderDelayUs,
      bytes: segment.bytes ?? 0,
    })),
  );
  return {
    ...takeView(take),
    lesson: {
      id: take.lesson.id,
      title: take.lesson.title,
      stage: take.lesson.stage,
      done: stagesDone({ recorded: true, ...(await leftOf(em, [take.lesson.id]))(take.lesson.id) }),
    },
    rig: take.rig,
    ledger: take.ledger ?? {},
    cutOff: take.cutOff,
    partial: take.partial,
    imported: take.browser === FROM_A_FILE,
    arrival: await arrivalOf(take),
    facts: take.facts ?? null,
    segments: segments.sort((a, b) => a.startUs - b.startUs),
    job: job && jobView(job),
    share: await shareOfTake(id),
    treatment: take.treatment ?? null,
    files: await takeFiles(take),
    copies: await takeCopies(id),
    byItself: byItself(
      (
        await em.find(TakeEventRow, { take: id, kind: { $in: [...BY_ITSELF] } }, { orderBy: { atUs: 'asc' } })
      ).map(({ kind, atUs, data }) => ({ kind, tUs: atUs, data })),
    ),
  };
}

/** Runs the finishing job (again), or cancels it. What was recorded stays either way. */
export async function setFinishing(id: TakeId, run: boolean): Promise<void> {
  const em = await unitOfWork();
  const take = found(await em.findOne(Take, { id }), 'take');
  const job = found(await em.findOne(Job, { subject: id, kind: 'finish-take' }), 'job');
  if (run && job.state !== 'running') {
    job.state = 'waiting';
    job.progress = 0;
    job.step = 'Waiting for a worker';
    job.problem = null;
    take.state = 'finishing';
    await em.flush();
    await order('finish-take', id);
  } else if (!run && (job.state === 'running' || job.state === 'waiting')) {
    job.state = 'cancelled';
    job.step = 'Cancelled';
    await em.flush();
  }
}

import { copyFile, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import { type Arrival, isOffered, isOverdue } from '@/core/recording/arrival';
import { SegmentPart } from '@/core/recording/take';
import { uploadName } from '@/core/recording/upload';
import { Job, type Segment, Take } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { segmentsOf } from '../db/take-segments';
import { found } from '../http/route';
import { order } from '../jobs/queue';
import { changedAt, makeFile, segmentPath, sha256Of, sizeOf, uploadsDir } from '../media/media-folder';
import { writeTakeDocument } from './take-document';

const isArriving = ({ state }: Take) => state === 'recording' || state === 'uploading';
/** The upload of a segment's part, while it is on its way. */
const uploadPath = (segment: Segment, part: SegmentPart) => join(uploadsDir(), uploadName(segment.id, part));

/** How far a take has come that is on its way from a browser. @param take with its tracks and segments */
export async function arrivalOf(take: Take, nowMs = Date.now()): Promise<Arrival | null> {
  if (!isArriving(take)) return null;
  const { lastMs, bytes } = await heard(take);
  return {
    lastHeardAt: new Date(lastMs).toISOString(),
    bytes,
    offered: isOffered(lastMs, nowMs, bytes),
  };
}

/** When something of a take last arrived, and how much has. */
async function heard(take: Take): Promise<{ lastMs: number; bytes: number }> {
  let [lastMs, bytes] = [Math.max(take.startedAt.getTime(), take.updatedAt.getTime()), 0];
  for (const segment of segmentsOf(take))
    for (const part of SegmentPart.options)
      for (const path of [uploadPath(segment, part), segmentPath(take.id, segment.id, part)]) {
        lastMs = Math.max(lastMs, (await changedAt(path)) ?? 0);
        bytes += (await sizeOf(path)) ?? 0;
      }
  return { lastMs, bytes };
}

/** Orders the job that finishes a take, whatever became of it before. */
export async function orderFinishing(id: TakeId): Promise<void> {
  const em = await unitOfWork();
  const waiting = { state: 'waiting', progress: 0, step: 'Waiting for a worker', problem: null } as const;
  const job = await em.findOne(Job, { subject: id, kind: 'finish-take' });
  if (job) Object.assign(job, waiting);
  else em.create(Job, { subject: id, kind: 'finish-take', ...waiting });
  await em.nativeUpdate(Take, { id }, { state: 'finishing' });
  await em.flush();
  await order('finish-take', id);
}

/**
 * Finishes a take whose browser is silent with what has arrived of it. The uploads stay where they are: should the browser come back,
 * the rest is put in and the take is finished again.
 * @param awaited its browser may have more than what was announced
 * @throws {ProblemError} `conflict` when it is finished already, or nothing has arrived
 */
export async function finishWithArrived(id: TakeId, awaited = true): Promise<void> {
  const em = await unitOfWork();
  const take = found(await em.findOne(Take, { id }, { populate: ['tracks.segments'] }), 'take');
  if (!isArriving(take))
    throw new ProblemError({ code: 'conflict', message: 'This take has ended already.' });
  const segments = segmentsOf(take);
  for (const segment of segments) await takeInWhatArrived(take.id, segment);
  const there = segments.filter(({ state }) => state !== 'expected');
  if (!there.some(({ bytes }) => (bytes ?? 0) > 0))
    throw new ProblemError({
      code: 'conflict',
      message: 'Nothing of this take has arrived.',
      hint: 'Open the studio in the browser that recorded it.',
    });
  const lengths = await Promise.all(
    there.map((segment) => lastIndexed(segmentPath(id, segment.id, 'index'))),
  );
  const partial = awaited || segments.some(({ state }) => state !== 'confirmed');
  Object.assign(take, { partial, cutOff: partial, durationUs: Math.max(0, ...lengths) || null });
  await em.flush();
  await orderFinishing(id);
  await writeTakeDocument(id);
}

/** Copies what has arrived of a segment to its place; the upload goes on where it is, if it ever does. */
async function takeInWhatArrived(take: TakeId, segment: Segment): Promise<void> {
  if (segment.state === 'confirmed') return;
  for (const part of SegmentPart.options) {
    const upload = uploadPath(segment, part);
    const kept = segmentPath(take, segment.id, part);
    if ((await sizeOf(upload)) !== null) await makeFile(kept, (temporary) => copyFile(upload, temporary));
    const bytes = await sizeOf(kept);
    if (bytes === null) continue;
    segment.state = 'partial';
    if (part === 'media') Object.assign(segment, { bytes, sha256: await sha256Of(kept) });
  }
}

/** The last time of a packet index, µs, whose last line may be torn. */
export async function lastIndexed(path: string): Promise<number> {
  const text = await readFile(path, 'utf8').catch(() => '');
  const last = text.slice(0, text.lastIndexOf('\n')).split('\n').at(-1) ?? '';
  const us = Number(last.split(' ')[0]);
  return Number.isSafeInteger(us) ? us : 0;
}

/** Finishes the takes whose browsers have been silent for a week. @returns their ids */
export async function finishOverdue(nowMs = Date.now()): Promise<TakeId[]> {
  const em = await unitOfWork();
  const takes = await em.find(
    Take,
    { state: ['recording', 'uploading'], deletedAt: null },
    { populate: ['tracks.segments'] },
  );
  const finished: TakeId[] = [];
  for (const take of takes) {
    const { lastMs, bytes } = await heard(take);
    if (!isOverdue(lastMs, nowMs, bytes)) continue;
    await finishWithArrived(take.id);
    finished.push(take.id);
  }
  return finished;
}

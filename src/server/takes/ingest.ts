import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { LockMode } from '@mikro-orm/core';
import type { z } from 'zod';
import type { SegmentId, TakeId } from '@/core/ids';
import { ProblemError } from '@/core/problem';
import { type ConfirmPart, type SegmentHead, SegmentPart, type TakeEnd, type TakeHead } from '@/core/take';
import { uploadName } from '@/core/upload';
import { Job, Lesson, Segment, Take, Track } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';
import { order } from '../jobs/queue';
import { isMatroska } from '../media/matroska';
import { segmentPath, settle, sha256Of, sizeOf, takeDir, uploadsDir } from '../store';

/** Creates a take that a browser began; again and again with the same id is the same as once. */
export async function createTake(head: TakeHead): Promise<void> {
  const em = await unitOfWork();
  await em.transactional(async (tx) => {
    if (await tx.findOne(Take, { id: head.id })) return;
    // Locks the lesson, so that two tabs cannot take the same number.
    const lesson = found(
      await tx.findOne(Lesson, { id: head.lessonId }, { lockMode: LockMode.PESSIMISTIC_WRITE }),
      'lesson',
    );
    const latest = await tx.findOne(Take, { lesson }, { orderBy: { number: 'desc' } });
    tx.create(Take, {
      id: head.id,
      lesson,
      number: (latest?.number ?? 0) + 1,
      state: 'recording',
      rig: head.rig,
      startedAt: new Date(head.startedAt),
      browser: head.browser,
      machine: head.machine,
    });
    if (lesson.stage === 'set-up' || lesson.stage === 'rehearse') lesson.stage = 'record';
    lesson.updatedAt = new Date();
  });
}

/** Announces a segment before its bytes come. */
export async function announceSegment(takeId: TakeId, head: SegmentHead): Promise<void> {
  const em = await unitOfWork();
  await em.transactional(async (tx) => {
    const take = found(
      await tx.findOne(Take, { id: takeId }, { lockMode: LockMode.PESSIMISTIC_WRITE }),
      'take',
    );
    const known = await tx.findOne(Segment, { id: head.id }, { populate: ['track'] });
    if (known && known.track.take.id !== takeId)
      throw new ProblemError({ code: 'conflict', message: 'This segment belongs to another take.' });
    if (known) return;
    const track =
      (await tx.findOne(Track, { take, kind: head.track })) ?? tx.create(Track, { take, kind: head.track });
    const { id, index, startUs, configuration, encoderDelayUs, offsetUs, offsetHow } = head;
    tx.create(Segment, {
      id,
      track,
      index,
      startUs,
      configuration,
      encoderDelayUs,
      offsetUs,
      offsetHow,
      state: 'expected',
    });
  });
}

/**
 * Takes an upload in for good when it is byte for byte what the browser has.
 * @throws {ProblemError} `conflict` when size or hash differ; the upload stays where it was
 */
export async function confirmPart(
  takeId: TakeId,
  segmentId: SegmentId,
  { part, bytes, sha256 }: z.infer<typeof ConfirmPart>,
): Promise<void> {
  const em = await unitOfWork();
  const segment = found(await em.findOne(Segment, { id: segmentId }, { populate: ['track'] }), 'segment');
  if (segment.track.take.id !== takeId)
    throw new ProblemError({ code: 'not-found', message: 'The take has no such segment.' });
  const kept = segmentPath(takeId, segmentId, part);
  const upload = join(uploadsDir(), uploadName(segmentId, part));
  // A confirmation whose answer was lost is asked for again after the file has moved.
  const at = (await sizeOf(upload)) === null ? kept : upload;
  const size = await sizeOf(at);
  if (size !== bytes)
    throw new ProblemError({
      code: 'conflict',
      message: `The server has ${size ?? 0} of ${bytes} bytes.`,
      hint: 'Send the rest, then confirm again.',
    });
  if ((await sha256Of(at)) !== sha256)
    throw new ProblemError({
      code: 'conflict',
      message: 'What the server has differs from what the browser has.',
      hint: 'Send it again from the start.',
    });
  if (part === 'media' && bytes > 0 && segment.configuration.type !== 'events' && !(await isMatroska(at))) {
    // It would be sent again and again: what was made of it goes, the announcement stays.
    await rm(at, { force: true });
    await rm(`${upload}.json`, { force: true });
    throw new ProblemError({
      code: 'bad-media',
      message: 'What was sent as this segment is no Matroska file.',
      hint: 'Send the segment as the recorder wrote it.',
    });
  }
  if (at === upload) {
    await settle(upload, kept);
    await rm(`${upload}.json`, { force: true });
  }
  await em.transactional(async (tx) => {
    // Both parts may be confirmed at the same time: each must see what the other wrote.
    const row = await tx.findOneOrFail(
      Segment,
      { id: segmentId },
      { lockMode: LockMode.PESSIMISTIC_WRITE, refresh: true },
    );
    if (part === 'media') Object.assign(row, { bytes, sha256 });
    else row.indexBytes = bytes;
    // Null before it is confirmed.
    if (typeof row.bytes === 'number' && typeof row.indexBytes === 'number') row.state = 'confirmed';
  });
}

/**
 * The browser says that the take is over and everything was sent: it is finished by a job.
 * @throws {ProblemError} `conflict` naming how many segments are still missing
 */
export async function endTake(takeId: TakeId, end: TakeEnd): Promise<void> {
  const em = await unitOfWork();
  const take = found(
    await em.findOne(Take, { id: takeId }, { populate: ['tracks.segments', 'lesson'] }),
    'take',
  );
  const segments = take.tracks.getItems().flatMap((track) => track.segments.getItems());
  const confirmed = new Set(segments.filter(({ state }) => state === 'confirmed').map(({ id }) => id));
  const missing = end.segments.filter((id) => !confirmed.has(id));
  if (missing.length > 0)
    throw new ProblemError({
      code: 'conflict',
      message: `${missing.length} segments are not confirmed yet.`,
      hint: 'Send and confirm them first.',
    });
  if (take.state === 'recording' || take.state === 'uploading') {
    take.durationUs = end.durationUs;
    take.pauses = end.pauses;
    take.ledger = end.ledger;
    take.cutOff = end.cutOff;
    take.state = 'finishing';
    take.lesson.updatedAt = new Date();
    em.create(Job, {
      subject: takeId,
      kind: 'finish-take',
      state: 'waiting',
      progress: 0,
      step: 'Waiting for a worker',
    });
    await em.flush();
    await order('finish-take', takeId);
  }
}

/**
 * Removes everything of a take that was thrown away while it was recorded. One that nobody knows is gone already.
 * @throws {ProblemError} `conflict` for a take that has ended: that one is kept
 */
export async function discardTake(takeId: TakeId): Promise<void> {
  const em = await unitOfWork();
  const take = await em.findOne(Take, { id: takeId }, { populate: ['tracks.segments'] });
  if (!take) return;
  if (take.state !== 'recording' && take.state !== 'uploading')
    throw new ProblemError({
      code: 'conflict',
      message: 'The take has ended and is kept.',
      hint: 'Delete it on its page.',
    });
  const segments = take.tracks.getItems().flatMap((track) => track.segments.getItems());
  await em.remove([...segments, ...take.tracks.getItems(), take]).flush();
  // Rows first: files without a row are only waste, a row without its files would be a lie.
  await rm(takeDir(takeId), { recursive: true, force: true });
  for (const { id } of segments)
    for (const part of SegmentPart.options) {
      const upload = join(uploadsDir(), uploadName(id, part));
      await rm(upload, { force: true });
      await rm(`${upload}.json`, { force: true });
    }
}

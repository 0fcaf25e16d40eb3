import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { LockMode } from '@mikro-orm/core';
import type { z } from 'zod';
import type { SegmentId, TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import {
  type ConfirmPart,
  type SegmentHead,
  SegmentPart,
  type TakeEnd,
  type TakeHead,
} from '@/core/recording/take';
import { HASH_DIFFERS, LESSON_GONE, uploadName } from '@/core/recording/upload';
import { Lesson, Segment, Take, Track } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { segmentsOf } from '../db/take-segments';
import { found } from '../http/route';
import { moveToTrash } from '../keeping/trash';
import { isMatroska } from '../media/matroska';
import { segmentPath, settle, sizeOf, takeDir, uploadsDir } from '../media/media-folder';
import { lastIndexed, orderFinishing } from './arrival';
import { writeTakeDocument } from './take-document';

/** A take on its way never goes into a lesson that nobody sees: it stays in its browser, which offers what to do. */
const lessonGone = () =>
  new ProblemError({
    code: LESSON_GONE,
    message: 'The lesson of this take was deleted.',
    hint: 'Save the take in a new lesson, or restore the lesson from the bin.',
  });

/** Locks the lesson, so that two tabs cannot use the same number. @throws {ProblemError} `lesson-gone` */
async function lockLesson(
  tx: UnitOfWork,
  id: TakeHead['lessonId'],
): Promise<{ lesson: Lesson; free: number }> {
  const lesson = await tx.findOne(Lesson, { id, deletedAt: null }, { lockMode: LockMode.PESSIMISTIC_WRITE });
  if (!lesson) throw lessonGone();
  const latest = await tx.findOne(Take, { lesson }, { orderBy: { number: 'desc' } });
  return { lesson, free: (latest?.number ?? 0) + 1 };
}

/**
 * Creates a take that a browser began; again and again with the same id is the same as once. A take whose lesson was deleted moves to
 * the lesson that its browser names now.
 * @throws {ProblemError} `lesson-gone` when there is no such lesson, or it is in the bin
 */
export async function createTake(head: TakeHead): Promise<void> {
  const em = await unitOfWork();
  await em.transactional(async (tx) => {
    const known = await tx.findOne(Take, { id: head.id }, { populate: ['lesson'] });
    if (known && !known.lesson.deletedAt) return;
    const { lesson, free } = await lockLesson(tx, head.lessonId);
    if (known) {
      Object.assign(known, { lesson, number: free });
      return;
    }
    tx.create(Take, {
      id: head.id,
      lesson,
      number: free,
      state: 'recording',
      rig: head.rig,
      startedAt: new Date(head.startedAt),
      browser: head.browser,
      machine: head.machine,
    });
    if (lesson.stage === 'set-up' || lesson.stage === 'rehearse') lesson.stage = 'record';
    lesson.updatedAt = new Date();
  });
  await writeTakeDocument(head.id);
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
    const { id, index, startUs, configuration, encoderDelayUs, offsetUs, offsetHow, continues } = head;
    tx.create(Segment, {
      id,
      track,
      index,
      startUs,
      configuration,
      encoderDelayUs,
      offsetUs,
      offsetHow,
      continues,
      state: 'expected',
    });
  });
  await writeTakeDocument(takeId);
}

/** SHA-256 of a file's first bytes, hex. */
async function sha256OfFirst(path: string, bytes: number): Promise<string> {
  const hash = createHash('sha256');
  if (bytes > 0) await pipeline(createReadStream(path, { end: bytes - 1 }), hash);
  return hash.digest('hex');
}

/**
 * Accepts an upload for good when it is byte for byte what the browser has. A browser that lost the end of its file, as in a power cut,
 * has less than what was sent: the longer file is kept when it begins with the browser's.
 * @throws {ProblemError} `conflict` when bytes are missing; `hash-differs` when they are others: then what had arrived is moved to the
 *   trash, and the browser sends it again from the start
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
  if (size === null || size < bytes)
    throw new ProblemError({
      code: 'conflict',
      message: `The server has ${size ?? 0} of ${bytes} bytes.`,
      hint: 'Send the rest, then confirm again.',
    });
  if ((await sha256OfFirst(at, bytes)) !== sha256) {
    await startAgain(segment, at, upload, 'differs from the file in the browser');
    throw new ProblemError({
      code: HASH_DIFFERS,
      message: 'What the server has differs from what the browser has.',
      hint: 'It is sent again from the start.',
    });
  }
  if (part === 'media' && bytes > 0 && segment.configuration.type !== 'events' && !(await isMatroska(at))) {
    await startAgain(segment, at, upload, 'not a Matroska file');
    throw new ProblemError({
      code: 'bad-media',
      message: 'What was sent as this segment is no Matroska file.',
      hint: 'Send the segment as the recorder wrote it.',
    });
  }
  const longer = size > bytes ? await sha256OfFirst(at, size) : null;
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
    if (part === 'media') Object.assign(row, { bytes: size, sha256: longer ?? sha256 });
    else row.indexBytes = size;
    // Null before it is confirmed. What was finished with a part of it counts only when both are whole.
    const confirmed = part === 'media' ? row.indexBytes : row.bytes;
    const otherIsWhole = typeof confirmed === 'number' && (await isWhole(takeId, segmentId, part));
    if (otherIsWhole) row.state = 'confirmed';
    await tx.nativeUpdate(Take, { id: takeId }, { updatedAt: new Date() });
  });
}

/** Whether the other part of a segment has its place, and no upload that is still on its way. */
async function isWhole(take: TakeId, segment: SegmentId, part: SegmentPart): Promise<boolean> {
  const other = part === 'media' ? 'index' : 'media';
  const upload = join(uploadsDir(), uploadName(segment, other));
  return (await sizeOf(upload)) === null && (await sizeOf(segmentPath(take, segment, other))) !== null;
}

/** Moves what has arrived of a segment's part aside, so that it can be sent again from its first byte. */
async function startAgain(segment: Segment, at: string, upload: string, reason: string): Promise<void> {
  await moveToTrash(at, reason);
  await rm(`${upload}.json`, { force: true });
  if (segment.state === 'confirmed')
    await (await unitOfWork()).nativeUpdate(Segment, { id: segment.id }, { state: 'expected' });
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
  const segments = segmentsOf(take);
  const confirmed = new Set(segments.filter(({ state }) => state === 'confirmed').map(({ id }) => id));
  const absent = new Set(end.absent);
  const missing = end.segments.filter((id) => !confirmed.has(id) && !absent.has(id));
  if (missing.length > 0)
    throw new ProblemError({
      code: 'conflict',
      message: `${missing.length} segments are not confirmed yet.`,
      hint: 'Send and confirm them first.',
    });
  if (take.lesson.deletedAt) throw lessonGone();
  // A take that was finished with what had arrived gets its rest now.
  if (take.state !== 'recording' && take.state !== 'uploading' && !take.partial) return;
  take.durationUs = end.cutOff
    ? Math.max(end.durationUs, await lastInstant(takeId, segments))
    : end.durationUs;
  take.pauses = end.pauses;
  take.ledger = end.ledger;
  take.cutOff = end.cutOff;
  take.partial = false;
  // Announced, but its browser has no file of it: there never was anything in it.
  for (const segment of segments)
    if (segment.state === 'expected' && absent.has(segment.id)) em.remove(segment);
  take.lesson.updatedAt = new Date();
  await em.flush();
  await orderFinishing(takeId);
  await writeTakeDocument(takeId);
}

/** A browser that lost the end of its files in a power cut knows of less than what had been sent before. */
async function lastInstant(take: TakeId, segments: readonly Segment[]): Promise<number> {
  const lasts = await Promise.all(segments.map(({ id }) => lastIndexed(segmentPath(take, id, 'index'))));
  return Math.max(0, ...lasts);
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
  const segments = segmentsOf(take);
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

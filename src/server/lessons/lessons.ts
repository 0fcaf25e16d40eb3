import { LockMode } from '@mikro-orm/core';
import { z } from 'zod';
import { type LessonId, newLessonId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import type { MeasuredTake } from '@/core/encoding/measured';
import type { TrackKind } from '@/core/recording/take';
import { FIRST_RIG } from '@/core/rig/purposes';
import { Rig } from '@/core/rig/rig';
import { type LessonView, type Stage, stagesDone, type TakeView, takeTitle } from '@/core/views/lesson';
import { Lesson, Take } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { takeBytes } from '../db/take-segments';
import { found } from '../http/route';
import { type Left, leftOf } from './left';
import { rigToBeginWith } from './rigs';
import { missedTakes } from './scheduled';

export const LessonInput = z.object({
  title: z.string().trim().min(1, 'a lesson needs a title').max(200),
});
export const LessonChange = z
  .object({
    title: LessonInput.shape.title,
    rig: Rig,
    /** The revision that the rig was made from; without it the rig is set whatever it was. */
    rigRevision: z.int().min(0),
    deleted: z.boolean(),
  })
  .partial()
  .refine((change) => Object.keys(change).length > 0, 'nothing to change was given');

export function takeView(take: Take): TakeView {
  return {
    id: take.id,
    number: take.number,
    title: takeTitle(take),
    state: take.state,
    startedAt: take.startedAt.toISOString(),
    durationUs: take.durationUs ?? null,
    withCamera: take.rig.camera !== null,
    hasThumbnail: take.facts?.picture !== undefined && take.facts?.picture !== null,
  };
}

function lessonView(lesson: Lesson, left: Left): LessonView {
  const takes = lesson.takes
    .getItems()
    .filter((take) => !take.deletedAt)
    .sort((a, b) => b.number - a.number);
  return {
    id: lesson.id,
    title: lesson.title,
    stage: lesson.stage,
    done: stagesDone({ recorded: takes.length > 0, ...left }),
    // Validated on the way out too: a document of an older version is found here, not in the middle of a recording.
    rig: lesson.rig,
    rigRevision: lesson.rigRevision,
    updatedAt: lesson.updatedAt.toISOString(),
    takes: takes.map(takeView),
    measured: null,
    lastTime: null,
    missed: null,
  };
}

const lessonAlone = async (em: UnitOfWork, lesson: Lesson): Promise<LessonView> =>
  lessonView(lesson, (await leftOf(em, [lesson.id]))(lesson.id));

/** All lessons, the one last worked on first. */
export async function listLessons(): Promise<LessonView[]> {
  const em = await unitOfWork();
  const lessons = await em.find(
    Lesson,
    { deletedAt: null },
    { populate: ['takes'], orderBy: { updatedAt: 'desc' } },
  );
  const missed = await missedTakes();
  const left = await leftOf(
    em,
    lessons.map(({ id }) => id),
  );
  return lessons.map((lesson) => ({
    ...lessonView(lesson, left(lesson.id)),
    missed: missed.get(lesson.id) ?? null,
  }));
}

/** @returns null when there is none, or it is deleted */
export async function readLesson(id: LessonId): Promise<LessonView | null> {
  const em = await unitOfWork();
  const lesson = await em.findOne(Lesson, { id, deletedAt: null }, { populate: ['takes'] });
  return (
    lesson && {
      ...(await lessonAlone(em, lesson)),
      measured: await measuredTake(em, lesson),
      lastTime: await lastTime(em, lesson),
    }
  );
}

/** What was recorded with last, in another lesson: offered until this one has a take. */
async function lastTime(em: UnitOfWork, lesson: Lesson): Promise<LessonView['lastTime']> {
  if (lesson.takes.getItems().some((take) => !take.deletedAt)) return null;
  const [take] = await em.find(
    Take,
    { lesson: { id: { $ne: lesson.id }, deletedAt: null }, deletedAt: null },
    { populate: ['lesson'], orderBy: { startedAt: 'desc' }, limit: 1 },
  );
  return take ? { lesson: take.lesson.title, rig: take.rig } : null;
}

/** What the newest finished take came to, by the files that were kept. */
async function measuredTake(em: UnitOfWork, lesson: Lesson): Promise<MeasuredTake | null> {
  const [take] = await em.find(
    Take,
    { lesson, deletedAt: null, state: 'ready' },
    { populate: ['tracks.segments'], orderBy: { number: 'desc' }, limit: 1 },
  );
  if (!take?.durationUs) return null;
  const seconds = take.durationUs / 1e6;
  const kbps = (kind: TrackKind) => (takeBytes(take, kind) * 8) / 1000 / seconds;
  return {
    startedAt: take.startedAt.toISOString(),
    rig: take.rig,
    kbps: {
      screen: kbps('screen'),
      camera: kbps('camera'),
      voice: kbps('voice'),
      appSound: kbps('app-sound'),
    },
  };
}

export function makeLesson(
  em: UnitOfWork,
  title: string,
  rig: Rig = FIRST_RIG,
  stage: Stage = 'set-up',
): Lesson {
  return em.create(Lesson, { id: newLessonId(), title, stage, rig, rigRevision: 0 });
}

export async function createLesson(input: z.infer<typeof LessonInput>): Promise<LessonView> {
  const em = await unitOfWork();
  const lesson = makeLesson(em, input.title, await rigToBeginWith(em));
  await em.flush();
  return lessonAlone(em, lesson);
}

/**
 * Changes a lesson. Deleting moves it to the bin (`maintenance/bin.ts`).
 * @throws {ProblemError} `conflict` when the rig was changed since `rigRevision`
 */
export async function changeLesson(id: LessonId, change: z.infer<typeof LessonChange>): Promise<LessonView> {
  const em = await unitOfWork();
  return em.transactional(async (tx) => {
    const lesson = found(
      await tx.findOne(Lesson, { id }, { populate: ['takes'], lockMode: LockMode.PESSIMISTIC_WRITE }),
      'lesson',
    );
    if (change.title !== undefined) lesson.title = change.title;
    if (change.rig !== undefined) {
      if (change.rigRevision !== undefined && change.rigRevision !== lesson.rigRevision)
        throw new ProblemError({
          code: 'conflict',
          message: 'The rig of this lesson was changed in another tab.',
          hint: 'Reload to see those changes, or keep the rig of this tab.',
          field: 'rig',
        });
      lesson.rig = change.rig;
      lesson.rigRevision++;
    }
    if (change.deleted !== undefined) lesson.deletedAt = change.deleted ? new Date() : null;
    await tx.flush();
    return lessonAlone(tx, lesson);
  });
}

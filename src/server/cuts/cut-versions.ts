import type { z } from 'zod';
import type { LessonId } from '@/core/base/ids';
import { type Cut, cutLengthUs } from '@/core/cut/cut';
import { describeChange, isReplaced } from '@/core/cut/describe-change';
import { KEEP_DAYS } from '@/core/keeping/trash';
import type { CutVersionView } from '@/core/views/edit-page';
import { CutRow, CutVersion, type Lesson } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { found } from '../http/route';

/** Shown in the list; older ones are kept too and reached by undo. */
const LISTED = 200;

/**
 * Keeps a state of a cut that was just saved.
 * @param before the state that it replaces; null for the first
 */
export async function keepVersion(
  tx: UnitOfWork,
  lesson: Lesson,
  revision: number,
  cut: Cut,
  before: Cut | null,
): Promise<void> {
  const change = before ? describeChange(before, cut) : 'The whole take';
  tx.create(CutVersion, { lesson, revision, document: cut, change, pinned: false });
  if (before && isReplaced(before, cut))
    await tx.nativeUpdate(CutVersion, { lesson: lesson.id, revision: revision - 1 }, { pinned: true });
}

/** The saved states of a lesson's cut, the latest first. */
export async function listVersions(lesson: LessonId): Promise<CutVersionView[]> {
  const em = await unitOfWork();
  const rows = await em.find(CutVersion, { lesson }, { orderBy: { revision: 'desc' }, limit: LISTED });
  return rows.map(({ revision, createdAt, change, document, pinned }) => ({
    ...{ revision, change, pinned },
    savedAt: createdAt.toISOString(),
    steps: document.steps.length,
    lengthUs: cutLengthUs(document),
  }));
}

/** One saved state. @throws {ProblemError} `not-found` */
export async function readVersion(lesson: LessonId, revision: number): Promise<{ cut: z.infer<typeof Cut> }> {
  const em = await unitOfWork();
  const row = found(await em.findOne(CutVersion, { lesson, revision }), 'version');
  return { cut: row.document };
}

/** The states before one, the oldest first: what undo goes back through after the page was loaded again. */
export async function readPast(lesson: LessonId, revision: number): Promise<{ past: Cut[] }> {
  const em = await unitOfWork();
  const rows = await em.find(
    CutVersion,
    { lesson, revision: { $lt: revision } },
    { orderBy: { revision: 'desc' }, limit: LISTED },
  );
  return { past: rows.map(({ document }) => document).reverse() };
}

/** Removes states that are older than they are kept for. The present one and those that were replaced whole stay. */
export async function dropOldVersions(now = new Date()): Promise<void> {
  const em = await unitOfWork();
  const before = new Date(now.getTime() - KEEP_DAYS * 24 * 3_600_000);
  const old = await em.find(CutVersion, { createdAt: { $lt: before }, pinned: false });
  const present = await em.find(CutRow, {});
  const isPresent = (version: CutVersion) =>
    present.some(({ lesson, revision }) => lesson.id === version.lesson.id && revision === version.revision);
  await em.remove(old.filter((version) => !isPresent(version))).flush();
}

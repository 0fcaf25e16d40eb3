import { LockMode } from '@mikro-orm/core';
import type { LessonId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import { type CutSave, cutOfTake, type EditPage } from '@/core/views/edit-page';
import { CutRow, Lesson, Take, TakeEventRow } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';
import { readTake } from '../takes/takes';
import { keepVersion } from './cut-versions';

/** What the Edit stage shows of a lesson: its cut, or what a cut of its newest take would be. */
export async function readEdit(id: LessonId): Promise<EditPage> {
  const em = await unitOfWork();
  const row = await em.findOne(CutRow, { lesson: id });
  const ended = await em.find(
    Take,
    { lesson: id, deletedAt: null, state: ['finishing', 'ready', 'failed'] },
    { orderBy: { number: 'desc' } },
  );
  const takes: EditPage['takes'] = [];
  for (const { id: takeId } of ended) {
    const take = await readTake(takeId);
    const marks = await em.find(TakeEventRow, { take: takeId, kind: 'mark' }, { orderBy: { atUs: 'asc' } });
    if (take?.durationUs) takes.push({ ...take, marksUs: marks.map(({ atUs }) => Number(atUs)) });
  }
  // Validated on the way out too: a document of an older version is found here.
  if (row) return { cut: row.document, revision: row.revision, takes };
  const [newest] = takes;
  return { cut: newest ? cutOfTake(newest) : null, revision: 0, takes };
}

/**
 * Keeps a lesson's cut.
 * @returns the revision to send with the next save
 * @throws {ProblemError} `conflict` when somebody else has saved since `revision`; `bad-input` when the cut points at what is
 *   not in the lesson's takes
 */
export async function saveCut(id: LessonId, { cut, revision }: CutSave): Promise<{ revision: number }> {
  const em = await unitOfWork();
  // What was shown before anything was saved is the first state to go back to.
  const shown = revision === 0 ? (await readEdit(id)).cut : null;
  return em.transactional(async (tx) => {
    const lesson = found(
      await tx.findOne(Lesson, { id, deletedAt: null }, { lockMode: LockMode.PESSIMISTIC_WRITE }),
      'lesson',
    );
    const takes = await tx.find(Take, { lesson });
    cut.steps.forEach((step, i) => {
      for (const piece of step.pieces) {
        const take = takes.find((each) => each.id === piece.take);
        const lastUs = piece.heldUs ?? piece.outUs;
        if (take && lastUs <= (take.durationUs ?? 0)) continue;
        throw new ProblemError({
          code: 'bad-input',
          message: `cut.steps.${i}: ${take ? 'goes beyond the end of its take' : 'is of a take that is not in this lesson'}.`,
          field: `cut.steps.${i}`,
        });
      }
    });
    const row = await tx.findOne(CutRow, { lesson: id });
    if ((row?.revision ?? 0) !== revision)
      throw new ProblemError({
        code: 'conflict',
        message: 'This lesson was edited in another tab.',
        hint: 'Reload to continue from there. The last change in this tab is not saved.',
      });
    const before = row ? row.document : shown;
    if (row) Object.assign(row, { document: cut, revision: revision + 1 });
    else {
      if (shown) await keepVersion(tx, lesson, 0, shown, null);
      tx.create(CutRow, { lesson, document: cut, revision: revision + 1 });
    }
    await keepVersion(tx, lesson, revision + 1, cut, before);
    if (lesson.stage !== 'hand-over') lesson.stage = 'edit';
    lesson.updatedAt = new Date();
    return { revision: revision + 1 };
  });
}

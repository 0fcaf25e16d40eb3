import { LockMode } from '@mikro-orm/core';
import type { LessonId, TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import { takesOf } from '@/core/cut/describe-change';
import type { Hand } from '@/core/cut/hand';
import { PictureShare } from '@/core/recording/take';
import { type CutSave, cutOfTake, type EditPage } from '@/core/views/edit-page';
import { unfinishedIncoming } from '../bring/incoming';
import { CutRow, Lesson, Take, TakeEventRow } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { found } from '../http/route';
import { readTake } from '../takes/takes';
import { keepVersion } from './cut-versions';

const ENDED = ['finishing', 'ready', 'failed'] as const;

/**
 * What the Edit stage shows of a lesson: its cut, or what a cut of its newest take would be.
 * @param added a take of another lesson that is about to be added
 */
export async function readEdit(id: LessonId, added: TakeId | null = null): Promise<EditPage> {
  const em = await unitOfWork();
  const row = await em.findOne(CutRow, { lesson: id });
  const usable = await em.find(
    Take,
    { lesson: id, deletedAt: null, state: [...ENDED] },
    { orderBy: { number: 'desc' } },
  );
  const own = new Set(usable.map((take) => take.id));
  const shown = [...(row ? takesOf(row.document) : []), ...(added ? [added] : [])];
  const takes: EditPage['takes'] = [];
  for (const takeId of new Set([...own, ...shown])) {
    const take = await readTake(takeId, 'also from the bin');
    if (take?.durationUs) takes.push({ ...take, ...(await marksAndHand(em, takeId)), own: own.has(takeId) });
  }
  // Validated on the way out too: a document of an older version is found here.
  const incoming = await unfinishedIncoming(id);
  if (row) return { cut: row.document, revision: row.revision, takes, incoming };
  const newest = takes.find((take) => take.own);
  return { cut: newest ? cutOfTake(newest) : null, revision: 0, takes, incoming };
}

/** What the events of a take tell: its marks, and where its hand clicked and typed. */
async function marksAndHand(em: UnitOfWork, take: TakeId): Promise<{ marksUs: number[]; hand: Hand }> {
  const events = await em.find(
    TakeEventRow,
    { take, kind: ['mark', 'click', 'key'] },
    { orderBy: { atUs: 'asc' } },
  );
  const of = (wanted: string) => events.filter(({ kind }) => kind === wanted);
  const timesUs = (wanted: string) => of(wanted).map(({ atUs }) => Number(atUs));
  const clicks = of('click').flatMap(({ atUs, data }) => {
    const at = PictureShare.safeParse(data);
    return at.success ? [{ atUs: Number(atUs), x: at.data.pictureX, y: at.data.pictureY }] : [];
  });
  return { marksUs: timesUs('mark'), hand: { clicks, keysUs: timesUs('key') } };
}

/**
 * Keeps a lesson's cut.
 * @returns the revision to send with the next save
 * @throws {ProblemError} `conflict` when somebody else has saved since `revision`; `bad-input` when the cut points at what is
 *   not in any take
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
    // Of any lesson: a cut points to takes, wherever they are.
    const takes = await tx.find(Take, { id: [...takesOf(cut)] });
    cut.steps.forEach((step, i) => {
      for (const piece of step.pieces) {
        const take = takes.find((each) => each.id === piece.take);
        const lastUs = piece.heldUs ?? piece.outUs;
        if (take && lastUs <= (take.durationUs ?? 0)) continue;
        throw new ProblemError({
          code: 'bad-input',
          message: `cut.steps.${i}: ${take ? 'goes beyond the end of its take' : 'is of a take that does not exist'}.`,
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

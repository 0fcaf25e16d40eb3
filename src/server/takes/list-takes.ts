import type { LessonId } from '@/core/base/ids';
import type { TakeListEntry } from '@/core/views/lesson';
import { CutRow, Lesson, Take } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { takeBytes } from '../db/take-segments';
import { found } from '../http/route';
import { takeView } from '../lessons/lessons';

/**
 * All takes of a lesson, the newest first; those in the bin too, for as long as they can be restored.
 * @throws {ProblemError} `not-found` when there is no such lesson
 */
export async function listTakes(id: LessonId): Promise<TakeListEntry[]> {
  const em = await unitOfWork();
  const lesson = found(await em.findOne(Lesson, { id, deletedAt: null }), 'lesson');
  const takes = await em.find(
    Take,
    { lesson },
    { populate: ['tracks.segments'], orderBy: { number: 'desc' } },
  );
  const row = await em.findOne(CutRow, { lesson: id });
  const used = new Set(row ? row.document.steps.flatMap(({ pieces }) => pieces.map(({ take }) => take)) : []);
  return takes.map((take) => ({
    ...takeView(take),
    bytes: takeBytes(take),
    inCut: used.has(take.id),
    deleted: take.deletedAt !== null && take.deletedAt !== undefined,
  }));
}

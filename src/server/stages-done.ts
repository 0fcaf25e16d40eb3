import type { LessonId } from '@/core/ids';
import { type Stage, stagesDone } from '@/core/lesson';
import { CutRow, Parcel, Take } from './db/entities';
import type { UnitOfWork } from './db/orm';

/** What each of the lessons has been through, by what is there of it. */
export async function stagesDoneOf(
  em: UnitOfWork,
  ids: readonly LessonId[],
): Promise<Map<LessonId, Stage[]>> {
  const lesson = { $in: [...ids] };
  // Rows of their own: half a take must not become one of those that a lesson shows.
  const alone = { fields: ['lesson'], disableIdentityMap: true } as const;
  const having = (rows: { lesson: { id: LessonId } }[]) => new Set(rows.map((row) => row.lesson.id));
  const takes = having(await em.find(Take, { lesson, deletedAt: null }, alone));
  const cuts = having(await em.find(CutRow, { lesson }, alone));
  const parcels = having(await em.find(Parcel, { lesson, deletedAt: null, facts: { $ne: null } }, alone));
  return new Map(
    ids.map((id) => [
      id,
      stagesDone({ recorded: takes.has(id), cut: cuts.has(id), handedOver: parcels.has(id) }),
    ]),
  );
}

import type { LessonId } from '@/core/base/ids';
import { CutRow, Parcel, RehearsalRow } from '../db/entities';
import type { UnitOfWork } from '../db/orm';

/** What else than takes there is of a lesson. */
export type Left = { rehearsed: boolean; cut: boolean; handedOver: boolean };

/** Of each of the lessons, whether it has a rehearsal, a cut of its own and a parcel that was made. */
export async function leftOf(em: UnitOfWork, ids: readonly LessonId[]): Promise<(id: LessonId) => Left> {
  const lesson = { $in: [...ids] };
  // Rows of their own: half an entity must not become one of those that others read.
  const alone = { fields: ['lesson'], disableIdentityMap: true } as const;
  const having = (rows: { lesson: { id: LessonId } }[]) => new Set(rows.map((row) => row.lesson.id));
  const rehearsals = having(await em.find(RehearsalRow, { lesson }, alone));
  const cuts = having(await em.find(CutRow, { lesson }, alone));
  const parcels = having(await em.find(Parcel, { lesson, deletedAt: null, facts: { $ne: null } }, alone));
  return (id) => ({ rehearsed: rehearsals.has(id), cut: cuts.has(id), handedOver: parcels.has(id) });
}

import type { LessonId, TakeId } from '@/core/base/ids';
import type { UnitOfWork } from '../db/orm';

export type UsingLesson = { id: LessonId; title: string };

/**
 * The lessons whose cuts show takes, those in the bin among them: what can be restored must be whole then.
 * @returns the lessons of each take that is used at all
 */
export async function lessonsUsing(
  em: UnitOfWork,
  takes: readonly TakeId[],
): Promise<Map<TakeId, UsingLesson[]>> {
  const using = new Map<TakeId, UsingLesson[]>();
  if (takes.length === 0) return using;
  const rows: { take: TakeId; id: LessonId; title: string }[] = await em.getConnection().execute(
    `select distinct piece->>'take' as take, lesson.id, lesson.title
       from cut join lesson on lesson.id = cut.lesson_id,
            jsonb_path_query(cut.document, '$.steps[*].pieces[*]') as piece
      where piece->>'take' in (${takes.map(() => '?').join(', ')})
      order by lesson.title`,
    [...takes],
  );
  for (const { take, id, title } of rows) using.set(take, [...(using.get(take) ?? []), { id, title }]);
  return using;
}

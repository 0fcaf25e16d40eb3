import type { LessonId } from '@/core/base/ids';
import type { OtherLesson } from '@/core/views/edit-page';
import { Take } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { takeView } from '../lessons/lessons';

/** What other lessons have that a cut can be made of, the lesson with the newest take first. */
export async function listOtherTakes(lesson: LessonId): Promise<OtherLesson[]> {
  const em = await unitOfWork();
  const takes = await em.find(
    Take,
    { lesson: { id: { $ne: lesson }, deletedAt: null }, deletedAt: null, state: 'ready' },
    { populate: ['lesson', 'tracks.segments'], orderBy: { startedAt: 'desc' } },
  );
  const lessons = new Map<LessonId, OtherLesson>();
  for (const take of takes) {
    const { id, title } = take.lesson;
    const own = lessons.get(id) ?? { id, title, takes: [] };
    const { id: takeId, title: takeTitle, durationUs } = takeView(take);
    own.takes.push({ id: takeId, title: takeTitle, durationUs: durationUs ?? 0 });
    lessons.set(id, own);
  }
  return [...lessons.values()];
}

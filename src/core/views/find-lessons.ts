import { type LessonView, STAGES, type TakeView } from './lesson';

export const LESSON_ORDERS = [
  { value: 'recent', label: 'Last worked on' },
  { value: 'title', label: 'Title' },
  { value: 'stage', label: 'Stage' },
] as const;
export type LessonOrder = (typeof LESSON_ORDERS)[number]['value'];

const has = (text: string, wanted: string): boolean => text.toLowerCase().includes(wanted);
const plain = (wanted: string): string => wanted.trim().toLowerCase();

/** The takes of a lesson that have the text in their title; none while nothing is looked for. */
export const foundTakes = ({ takes }: Pick<LessonView, 'takes'>, wanted: string): TakeView[] =>
  plain(wanted) === '' ? [] : takes.filter(({ title }) => has(title, plain(wanted)));

/**
 * The lessons that have the text in their own title or in that of a take.
 * @param lessons the one last worked on first
 */
export function findLessons(
  lessons: readonly LessonView[],
  wanted: string,
  order: LessonOrder,
): LessonView[] {
  const found = lessons.filter(
    (lesson) => has(lesson.title, plain(wanted)) || foundTakes(lesson, wanted).length > 0,
  );
  if (order === 'title')
    return found.sort((a, b) => a.title.localeCompare(b.title, 'en', { numeric: true, sensitivity: 'base' }));
  const at = ({ stage }: LessonView) => STAGES.findIndex(({ key }) => key === stage);
  // Sorting is stable: within a stage, the one last worked on stays first.
  return order === 'stage' ? found.sort((a, b) => at(a) - at(b)) : found;
}

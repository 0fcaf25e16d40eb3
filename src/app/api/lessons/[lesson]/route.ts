import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { changeLesson, LessonChange } from '@/server/lessons/lessons';

export const PATCH = route(
  { params: z.object({ lesson: LessonId }), body: LessonChange },
  ({ params, body }) => changeLesson(params.lesson, body),
);

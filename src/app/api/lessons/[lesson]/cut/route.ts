import { z } from 'zod';
import { CutSave } from '@/core/cut/edit-page';
import { LessonId } from '@/core/ids';
import { saveCut } from '@/server/cuts';
import { route } from '@/server/http/route';

export const PUT = route({ params: z.object({ lesson: LessonId }), body: CutSave }, ({ params, body }) =>
  saveCut(params.lesson, body),
);

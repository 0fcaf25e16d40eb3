import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { CutSave } from '@/core/views/edit-page';
import { saveCut } from '@/server/cuts/cuts';
import { route } from '@/server/http/route';

export const PUT = route({ params: z.object({ lesson: LessonId }), body: CutSave }, ({ params, body }) =>
  saveCut(params.lesson, body),
);

import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { listVersions } from '@/server/cuts/cut-versions';
import { route } from '@/server/http/route';

export const GET = route({ params: z.object({ lesson: LessonId }) }, ({ params }) =>
  listVersions(params.lesson),
);

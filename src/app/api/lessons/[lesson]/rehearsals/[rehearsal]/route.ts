import { z } from 'zod';
import { LessonId, RehearsalId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { readTrace } from '@/server/rehearsals/rehearsals';

export const dynamic = 'force-dynamic';

export const GET = route({ params: z.object({ lesson: LessonId, rehearsal: RehearsalId }) }, ({ params }) =>
  readTrace(params.lesson, params.rehearsal),
);

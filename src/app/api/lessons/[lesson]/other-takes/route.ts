import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { listOtherTakes } from '@/server/cuts/other-takes';
import { route } from '@/server/http/route';

export const dynamic = 'force-dynamic';

export const GET = route({ params: z.object({ lesson: LessonId }) }, ({ params }) =>
  listOtherTakes(params.lesson),
);

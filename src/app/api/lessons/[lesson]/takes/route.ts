import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { listTakes } from '@/server/takes/list-takes';

export const dynamic = 'force-dynamic';

export const GET = route({ params: z.object({ lesson: LessonId }) }, ({ params }) =>
  listTakes(params.lesson),
);

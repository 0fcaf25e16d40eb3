import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { readPast } from '@/server/cuts/cut-versions';
import { route } from '@/server/http/route';

const params = z.object({ lesson: LessonId, revision: z.coerce.number().int().min(0) });

/** The saved states before a revision, the oldest first. */
export const GET = route({ params }, ({ params }) => readPast(params.lesson, params.revision));

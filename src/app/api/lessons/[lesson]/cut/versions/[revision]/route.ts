import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { readVersion } from '@/server/cuts/cut-versions';
import { route } from '@/server/http/route';

const params = z.object({ lesson: LessonId, revision: z.coerce.number().int().min(0) });

export const GET = route({ params }, ({ params }) => readVersion(params.lesson, params.revision));

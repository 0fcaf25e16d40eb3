import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { RehearsalReport } from '@/core/rehearsal/rehearsal';
import { route } from '@/server/http/route';
import { keepRehearsal, listRehearsals } from '@/server/rehearsals/rehearsals';

export const dynamic = 'force-dynamic';

const params = z.object({ lesson: LessonId });

export const GET = route({ params }, ({ params }) => listRehearsals(params.lesson));
export const POST = route({ params, body: RehearsalReport }, ({ params, body }) =>
  keepRehearsal(params.lesson, body),
);

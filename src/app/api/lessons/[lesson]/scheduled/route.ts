import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { ScheduleInput } from '@/core/recording/schedule';
import { route } from '@/server/http/route';
import { listScheduled, schedule } from '@/server/lessons/scheduled';

const params = z.object({ lesson: LessonId });

export const GET = route({ params }, ({ params }) => listScheduled(params.lesson));
export const POST = route({ params, body: ScheduleInput }, ({ params, body }) =>
  schedule(params.lesson, body),
);

import { z } from 'zod';
import { ScheduleId } from '@/core/base/ids';
import { ScheduleChange } from '@/core/recording/schedule';
import { route } from '@/server/http/route';
import { changeScheduled } from '@/server/lessons/scheduled';

export const PATCH = route(
  { params: z.object({ scheduled: ScheduleId }), body: ScheduleChange },
  ({ params, body }) => changeScheduled(params.scheduled, body),
);

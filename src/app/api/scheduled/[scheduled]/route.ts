import { z } from 'zod';
import { ScheduleId } from '@/core/ids';
import { ScheduleChange } from '@/core/schedule';
import { route } from '@/server/http/route';
import { changeScheduled } from '@/server/scheduled';

export const PATCH = route(
  { params: z.object({ scheduled: ScheduleId }), body: ScheduleChange },
  ({ params, body }) => changeScheduled(params.scheduled, body),
);

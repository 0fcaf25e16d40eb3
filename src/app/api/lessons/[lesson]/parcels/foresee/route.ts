import { z } from 'zod';
import { Destination } from '@/core/destination';
import { LessonId } from '@/core/ids';
import { route } from '@/server/http/route';
import { foreseeParcel } from '@/server/parcels';

/** What would be made for a place; nothing is made. */
export const POST = route(
  { params: z.object({ lesson: LessonId }), body: z.object({ destination: Destination }) },
  ({ params, body }) => foreseeParcel(params.lesson, body.destination),
);

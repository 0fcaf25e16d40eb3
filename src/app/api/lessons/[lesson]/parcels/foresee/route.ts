import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { Destination } from '@/core/destination/destination';
import { foreseeParcel } from '@/server/delivery/parcels';
import { route } from '@/server/http/route';

/** What would be made for a destination; nothing is made. `sampled`: three seconds are encoded first, and tell the size. */
export const POST = route(
  {
    params: z.object({ lesson: LessonId }),
    body: z.object({ destination: Destination, sampled: z.boolean().default(false) }),
  },
  ({ params, body, request }) => foreseeParcel(params.lesson, body.destination, body.sampled, request.signal),
);

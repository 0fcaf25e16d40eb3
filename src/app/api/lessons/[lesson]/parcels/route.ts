import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { Destination } from '@/core/destination/destination';
import { listParcels, orderParcel } from '@/server/delivery/parcels';
import { route } from '@/server/http/route';

const params = z.object({ lesson: LessonId });

export const GET = route({ params }, ({ params }) => listParcels(params.lesson));
export const POST = route({ params, body: z.object({ destination: Destination }) }, ({ params, body }) =>
  orderParcel(params.lesson, body.destination),
);

import { z } from 'zod';
import { ParcelId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { progressStream } from '@/server/takes/progress';

/** Server-sent events: the parcel's job, a message whenever it changed, until it is over. */
export const GET = route({ params: z.object({ parcel: ParcelId }) }, async ({ params, request }) =>
  progressStream('render-parcel', params.parcel, request.signal),
);

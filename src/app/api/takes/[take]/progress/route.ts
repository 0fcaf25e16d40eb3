import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { progressStream } from '@/server/takes/progress';

/** Server-sent events: the take's job, a message whenever it changed, until it is over. */
export const GET = route({ params: z.object({ take: TakeId }) }, async ({ params, request }) =>
  progressStream('finish-take', params.take, request.signal),
);

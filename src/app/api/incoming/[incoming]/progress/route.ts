import { z } from 'zod';
import { IncomingId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { progressStream } from '@/server/takes/progress';

/** Server-sent events: the file's job, a message whenever it changed, until it is over. */
export const GET = route({ params: z.object({ incoming: IncomingId }) }, async ({ params, request }) =>
  progressStream('bring-file', params.incoming, request.signal),
);

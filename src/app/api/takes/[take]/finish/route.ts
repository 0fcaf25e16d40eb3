import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { setFinishing } from '@/server/takes/takes';

export const POST = route(
  { params: z.object({ take: TakeId }), body: z.object({ run: z.boolean() }) },
  ({ params, body }) => setFinishing(params.take, body.run),
);

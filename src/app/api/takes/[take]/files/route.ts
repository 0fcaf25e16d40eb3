import { z } from 'zod';
import { Format } from '@/core/formats';
import { TakeId } from '@/core/ids';
import { route } from '@/server/http/route';
import { orderFormat } from '@/server/takes/take-files';

export const POST = route(
  { params: z.object({ take: TakeId }), body: z.object({ format: Format }) },
  ({ params, body }) => orderFormat(params.take, body.format),
);

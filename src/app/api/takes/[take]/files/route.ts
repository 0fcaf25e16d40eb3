import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { Format } from '@/core/codec/formats';
import { route } from '@/server/http/route';
import { orderCopies, orderFormat } from '@/server/takes/take-files';

/** Makes a format of the take, or copies what is finished to its store once more. */
export const POST = route(
  { params: z.object({ take: TakeId }), body: z.object({ format: z.union([Format, z.literal('copies')]) }) },
  ({ params, body }) =>
    body.format === 'copies' ? orderCopies(params.take) : orderFormat(params.take, body.format),
);

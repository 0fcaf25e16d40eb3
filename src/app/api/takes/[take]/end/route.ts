import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { TakeEnd } from '@/core/recording/take';
import { route } from '@/server/http/route';
import { endTake } from '@/server/takes/ingest';

export const POST = route({ params: z.object({ take: TakeId }), body: TakeEnd }, ({ params, body }) =>
  endTake(params.take, body),
);

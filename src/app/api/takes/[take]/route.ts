import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import { TakeHead } from '@/core/recording/take';
import { route } from '@/server/http/route';
import { createTake, discardTake } from '@/server/takes/ingest';
import { changeTake, TakeChange } from '@/server/takes/takes';

const params = z.object({ take: TakeId });

export const PUT = route({ params, body: TakeHead }, async ({ params, body }) => {
  if (body.id !== params.take)
    throw new ProblemError({
      code: 'bad-input',
      message: 'id: is not the take of the address.',
      field: 'id',
    });
  await createTake(body);
});

/** Throws away a take that is still being recorded or was just discarded; one that is complete is only hidden (PATCH). */
export const DELETE = route({ params }, ({ params }) => discardTake(params.take));

export const PATCH = route({ params, body: TakeChange }, ({ params, body }) => changeTake(params.take, body));

import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { finishWithArrived } from '@/server/takes/arrival';

/** Finishes a take whose browser is silent with what has arrived of it. */
export const POST = route({ params: z.object({ take: TakeId }) }, ({ params }) =>
  finishWithArrived(params.take),
);

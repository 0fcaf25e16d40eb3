import { z } from 'zod';
import { StoreId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { removeStore } from '@/server/stores';

export const DELETE = route({ params: z.object({ store: StoreId }) }, ({ params }) =>
  removeStore(params.store),
);

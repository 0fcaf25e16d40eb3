import { z } from 'zod';
import { StoreId } from '@/core/base/ids';
import { removeStore } from '@/server/delivery/stores';
import { route } from '@/server/http/route';

export const DELETE = route({ params: z.object({ store: StoreId }) }, ({ params }) =>
  removeStore(params.store),
);

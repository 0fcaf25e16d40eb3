import { StoreInput } from '@/core/rig/final-store';
import { addStore, listStores } from '@/server/delivery/stores';
import { route } from '@/server/http/route';

export const GET = route({}, () => listStores());
export const POST = route({ body: StoreInput }, ({ body }) => addStore(body));

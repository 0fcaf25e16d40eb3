import { StoreInput } from '@/core/rig/final-store';
import { route } from '@/server/http/route';
import { addStore, listStores } from '@/server/stores';

export const GET = route({}, () => listStores());
export const POST = route({ body: StoreInput }, ({ body }) => addStore(body));

import { NamedRigInput } from '@/core/rig/named-rig';
import { route } from '@/server/http/route';
import { createRig, listRigs } from '@/server/lessons/rigs';

export const GET = route({}, () => listRigs());
export const POST = route({ body: NamedRigInput }, ({ body }) => createRig(body));

import { z } from 'zod';
import { RigId } from '@/core/ids';
import { NamedRigChange } from '@/core/named-rig';
import { route } from '@/server/http/route';
import { changeRig } from '@/server/rigs';

export const PATCH = route({ params: z.object({ rig: RigId }), body: NamedRigChange }, ({ params, body }) =>
  changeRig(params.rig, body),
);

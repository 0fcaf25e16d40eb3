import { z } from 'zod';
import { RigId } from '@/core/base/ids';
import { NamedRigChange } from '@/core/rig/named-rig';
import { route } from '@/server/http/route';
import { changeRig } from '@/server/lessons/rigs';

export const PATCH = route({ params: z.object({ rig: RigId }), body: NamedRigChange }, ({ params, body }) =>
  changeRig(params.rig, body),
);

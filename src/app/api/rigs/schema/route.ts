import { rigJsonSchema } from '@/core/rig/rig-file';
import { route } from '@/server/http/route';

export const GET = route({}, async () => rigJsonSchema());

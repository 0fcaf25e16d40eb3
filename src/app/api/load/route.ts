import { route } from '@/server/http/route';
import { readLoad } from '@/server/load/read-load';
import { isSameMachine } from '@/server/load/same-machine';

export const dynamic = 'force-dynamic';

export const GET = route({}, ({ request }) => readLoad(isSameMachine(request.headers)));

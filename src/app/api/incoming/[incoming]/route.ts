import { z } from 'zod';
import { IncomingId } from '@/core/base/ids';
import { cancelIncoming, readIncoming } from '@/server/bring/incoming';
import { route } from '@/server/http/route';

const params = z.object({ incoming: IncomingId });

/** A file that was brought into a lesson, and how far it is. */
export const GET = route({ params }, ({ params }) => readIncoming(params.incoming));

/** Cancels it. A take that is made already stays. */
export const DELETE = route({ params }, ({ params }) => cancelIncoming(params.incoming));

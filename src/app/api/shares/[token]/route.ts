import { z } from 'zod';
import { ShareToken } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { revokeShare } from '@/server/sharing/links';

export const DELETE = route({ params: z.object({ token: ShareToken }) }, ({ params }) =>
  revokeShare(params.token),
);

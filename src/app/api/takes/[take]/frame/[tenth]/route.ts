import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { smallFrame } from '@/server/media/small-frame';

const params = z.object({ take: TakeId, tenth: z.coerce.number().int().min(0).max(1_000_000) });

/** The screen's picture at a tenth of a second of a take, small. It never changes. */
export const GET = route({ params }, async ({ params: { take, tenth } }) => {
  const jpeg = await smallFrame(take, tenth * 100_000);
  return new Response(jpeg, {
    headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=31536000, immutable' },
  });
});

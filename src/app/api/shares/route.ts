import { z } from 'zod';
import { ParcelId, TakeId } from '@/core/base/ids';
import { route } from '@/server/http/route';
import { makeShare } from '@/server/sharing/links';

/** The link of a parcel or a take. */
export const POST = route(
  { body: z.union([z.strictObject({ take: TakeId }), z.strictObject({ parcel: ParcelId })]) },
  ({ body }) => makeShare(body),
);

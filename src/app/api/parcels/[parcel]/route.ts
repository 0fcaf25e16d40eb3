import { z } from 'zod';
import { ParcelId } from '@/core/base/ids';
import { changeParcel, readParcel } from '@/server/delivery/parcels';
import { route } from '@/server/http/route';

const params = z.object({ parcel: ParcelId });

export const GET = route({ params }, ({ params }) => readParcel(params.parcel));
export const PATCH = route(
  { params, body: z.object({ act: z.enum(['retry', 'cancel', 'delete']) }) },
  ({ params, body }) => changeParcel(params.parcel, body.act),
);

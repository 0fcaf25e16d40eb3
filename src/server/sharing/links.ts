import { newShareToken, type ParcelId, type ShareToken, type TakeId } from '@/core/base/ids';
import type { ShareView } from '@/core/views/take-page';
import { Parcel, Share, Take } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';
import { config } from '../process/config';

export type Shared = { take: TakeId } | { parcel: ParcelId };

/** The address that is given away. */
export const shareView = (token: ShareToken): ShareView => ({
  token,
  url: `${config().shareUrl}/s/${token}`,
});

/** The link of a parcel or a take; a new one where there is none. */
export async function makeShare(what: Shared): Promise<ShareView> {
  const em = await unitOfWork();
  const known = await em.findOne(Share, { ...what, revokedAt: null });
  if (known) return shareView(known.token);
  const subject =
    'take' in what
      ? { take: found(await em.findOne(Take, { id: what.take, deletedAt: null }), 'take') }
      : { parcel: found(await em.findOne(Parcel, { id: what.parcel, deletedAt: null }), 'parcel') };
  const share = em.create(Share, { token: newShareToken(), ...subject });
  await em.flush();
  return shareView(share.token);
}

/** From now on the link shows nothing. */
export async function revokeShare(token: ShareToken): Promise<void> {
  const em = await unitOfWork();
  found(await em.findOne(Share, { token, revokedAt: null }), 'link').revokedAt = new Date();
  await em.flush();
}

/** @returns the take's link that is in force, if any */
export async function shareOfTake(take: TakeId): Promise<ShareView | null> {
  const em = await unitOfWork();
  const share = await em.findOne(Share, { take, revokedAt: null });
  return share && shareView(share.token);
}

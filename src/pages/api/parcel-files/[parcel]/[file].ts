import { join } from 'node:path';
import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { ParcelId } from '@/core/base/ids';
import { sendMedia } from '@/server/http/send-media';
import { parcelDir } from '@/server/media/media-folder';

/** A Pages route: App routes lose the length of what they send, and players need true ranges. */
export const config = { api: { bodyParser: false, externalResolver: true, responseLimit: false } };

const Query = z.object({
  parcel: ParcelId,
  file: z.string().regex(/^(video|screen|camera|voice|app-sound)\.(mp4|mov|mkv|wav)$/),
  /** The name under which it is saved; a download when given. */
  name: z.string().max(300).optional(),
});

export default function handle(request: NextApiRequest, response: NextApiResponse) {
  const query = Query.safeParse(request.query);
  const path = query.success ? join(parcelDir(query.data.parcel), query.data.file) : null;
  const missing = {
    code: 'not-found',
    message: 'There is no such file.',
    hint: 'The parcel may still be in the making.',
  };
  sendMedia(request, response, path, missing, { saveAs: query.data?.name });
}

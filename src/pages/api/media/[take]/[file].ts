import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { SegmentId, TakeId } from '@/core/base/ids';
import { sendMedia } from '@/server/http/send-media';
import { MADE_FILES, madePath, segmentPath } from '@/server/media/media-folder';

/** A Pages route: App routes lose the length of what they send, and players need true ranges. */
export const config = { api: { bodyParser: false, externalResolver: true, responseLimit: false } };

const Query = z.object({
  take: TakeId,
  file: z.union([
    z.enum(MADE_FILES),
    z
      .string()
      .endsWith('.media')
      .transform((name) => name.slice(0, -'.media'.length))
      .pipe(SegmentId),
  ]),
  /** The name under which it is saved; a download when given. */
  name: z.string().max(300).optional(),
});

export default function handle(request: NextApiRequest, response: NextApiResponse) {
  const query = Query.safeParse(request.query);
  const { take, file, name } = query.data ?? {};
  const made = MADE_FILES.find((known) => known === file);
  const path = !take ? null : made ? madePath(take, made) : segmentPath(take, file as SegmentId, 'media');
  const missing = {
    code: 'not-found',
    message: 'There is no such file.',
    hint: 'The take may still be in the making.',
  };
  const type = made ? undefined : 'video/x-matroska';
  // What the player reads: writing each part to the browser's cache as well makes a seek a tenth slower (docs/figures.md, `play`).
  const isStored = made !== undefined && !/\.mk[av]$/.test(made);
  sendMedia(request, response, path, missing, { saveAs: name, type, isStored });
}

import type { NextApiRequest, NextApiResponse } from 'next';
import send from 'send';
import { z } from 'zod';
import { SegmentId, TakeId } from '@/core/ids';
import { fileName } from '@/core/names';
import { config as settings } from '@/server/config';
import { FOREIGN_REQUEST, isOwnRequest } from '@/server/http/origin';
import { MADE_FILES, madePath, segmentPath } from '@/server/store';

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
  if (!isOwnRequest(request.headers.host ?? null, request.headers.origin ?? null, settings().allowedHosts))
    return response.status(403).json(FOREIGN_REQUEST);
  if (request.method !== 'GET' && request.method !== 'HEAD')
    return response.status(405).json({ code: 'bad-input', message: 'Media can only be read.' });
  const query = Query.safeParse(request.query);
  const missing = {
    code: 'not-found',
    message: 'There is no such file.',
    hint: 'The take may still be in the making.',
  };
  if (!query.success) return response.status(404).json(missing);
  const { take, file, name } = query.data;
  const made = MADE_FILES.find((known) => known === file);
  const path = made ? madePath(take, made) : segmentPath(take, file as SegmentId, 'media');
  if (!made) response.setHeader('Content-Type', 'video/x-matroska');
  if (name) {
    const safe = fileName(name, (made ?? 'track.mkv').split('.').pop() ?? 'bin');
    response.setHeader('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(safe)}`);
  }
  send(request, path, { dotfiles: 'allow', cacheControl: false })
    .on('headers', (outgoing) => outgoing.setHeader('Cache-Control', 'private, no-cache'))
    .on('error', (error) => {
      if (error.statusCode === 416) response.status(416).end();
      else response.status(404).json(missing);
    })
    .pipe(response);
}

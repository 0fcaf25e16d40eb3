import type { NextApiRequest, NextApiResponse } from 'next';
import send from 'send';
import { fileName } from '@/core/base/names';
import type { Problem } from '@/core/base/problem';
import { config as settings } from '../process/config';
import { FOREIGN_REQUEST, isOwnRequest } from '../process/origin';

/**
 * Sends a file with ranges (RFC 9110 section 14), to the studio's own pages only.
 * @param path null: there is no such file
 * @param saveAs a name without extension; the browser then saves it instead of showing it
 * @param isStored whether the browser may keep a copy, which it asks for changes each time: not of what is read in many small parts
 */
export function sendMedia(
  request: NextApiRequest,
  response: NextApiResponse,
  path: string | null,
  missing: Problem,
  { saveAs, type, isStored = true }: { saveAs?: string; type?: string; isStored?: boolean } = {},
): unknown {
  const refuse = (status: number, problem: Problem) => response.status(status).json(problem);
  if (!isOwnRequest(request.headers.host ?? null, request.headers.origin ?? null, settings().allowedHosts))
    return refuse(403, FOREIGN_REQUEST);
  if (request.method !== 'GET' && request.method !== 'HEAD')
    return refuse(405, { code: 'bad-input', message: 'Media can only be read.' });
  if (!path) return refuse(404, missing);
  if (type) response.setHeader('Content-Type', type);
  if (saveAs) {
    const safe = fileName(saveAs, path.split('.').pop() ?? 'bin');
    response.setHeader('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(safe)}`);
  }
  return send(request, path, { dotfiles: 'allow', cacheControl: false })
    .on('headers', (outgoing) =>
      outgoing.setHeader('Cache-Control', `private, ${isStored ? 'no-cache' : 'no-store'}`),
    )
    .on('error', (error) => {
      if (error.statusCode === 416) response.status(416).end();
      else refuse(404, missing);
    })
    .pipe(response);
}

import { Readable } from 'node:stream';
import type { NextApiRequest, NextApiResponse } from 'next';
import { config as settings } from '@/server/process/config';
import { FOREIGN_REQUEST, isOwnRequest } from '@/server/process/origin';
import { uploads } from '@/server/takes/uploads';

/** A Pages route: the body of an App route comes in small pieces through several kinds of stream, which costs most of the time. */
export const config = { api: { bodyParser: false, externalResolver: true } };

/** The tus protocol (1.0.0 with creation and deferred length). */
export default async function handle(request: NextApiRequest, response: NextApiResponse) {
  const { host = null, origin = null } = request.headers;
  if (!isOwnRequest(host, origin, settings().allowedHosts)) return response.status(403).json(FOREIGN_REQUEST);
  const headers = new Headers();
  for (const [name, value] of Object.entries(request.headers)) if (value) headers.set(name, String(value));
  const hasBody = request.method === 'PATCH' || request.method === 'POST';
  const answer = await uploads().handleWeb(
    new Request(`http://${host}${request.url}`, {
      method: request.method,
      headers,
      ...(hasBody && { body: Readable.toWeb(request) as ReadableStream, duplex: 'half' }),
    }),
  );
  response.status(answer.status);
  answer.headers.forEach((value, name) => {
    response.setHeader(name, value);
  });
  response.end(Buffer.from(await answer.arrayBuffer()));
}

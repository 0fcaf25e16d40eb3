import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import { bytesText } from '@/core/base/figures';
import { ProblemError, problemOf } from '@/core/base/problem';
import { statusOf } from '@/server/http/route';
import { measureFile } from '@/server/media/measure';
import { freeBytes, inspectionPath } from '@/server/media/media-folder';
import { config as settings } from '@/server/process/config';
import { log } from '@/server/process/log';
import { FOREIGN_REQUEST, isOwnRequest } from '@/server/process/origin';

/** A Pages route: a file is streamed to disk, never held in memory. */
export const config = { api: { bodyParser: false } };

/** Measures a file that somebody holds against the rules of a place. It is read, told about, and removed. */
export default async function handle(request: NextApiRequest, response: NextApiResponse) {
  if (!isOwnRequest(request.headers.host ?? null, request.headers.origin ?? null, settings().allowedHosts))
    return response.status(403).json(FOREIGN_REQUEST);
  if (request.method !== 'POST')
    return response.status(405).json({ code: 'bad-input', message: 'Send the file by POST.' });
  const path = inspectionPath();
  try {
    const most = (await freeBytes()) - settings().leastFreeBytes;
    await mkdir(dirname(path), { recursive: true });
    await pipeline(request, atMost(most), createWriteStream(path));
    response.status(200).json(await measureFile(path));
  } catch (error) {
    const problem = problemOf(error);
    if (problem.code === 'unexpected') log().warn({ err: error }, 'a file to be checked');
    if (!response.headersSent) response.status(statusOf(problem)).json(problem);
  } finally {
    await rm(path, { force: true });
  }
}

/** Passes bytes on while there is room for them. */
function atMost(most: number): Transform {
  let bytes = 0;
  return new Transform({
    transform(part: Buffer, _, done) {
      bytes += part.length;
      if (bytes <= most) return done(null, part);
      done(
        new ProblemError({
          code: 'disk-full',
          message: `The studio’s disk has no room for more than ${bytesText(Math.max(0, most))} of this file.`,
          hint: 'Free some space on the studio’s disk.',
        }),
      );
    },
  });
}

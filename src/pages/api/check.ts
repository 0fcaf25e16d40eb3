import { rm } from 'node:fs/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import { problemOf } from '@/core/base/problem';
import { receiveFile } from '@/server/http/receive-file';
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
    await receiveFile(request, path, (await freeBytes()) - settings().leastFreeBytes);
    response.status(200).json(await measureFile(path));
  } catch (error) {
    const problem = problemOf(error);
    if (problem.code === 'unexpected') log().warn({ err: error }, 'a file to be checked');
    if (!response.headersSent) response.status(statusOf(problem)).json(problem);
  } finally {
    await rm(path, { force: true });
  }
}

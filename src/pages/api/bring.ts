import { rm } from 'node:fs/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { problemOf } from '@/core/base/problem';
import { orderIncoming } from '@/server/bring/incoming';
import { receiveFile } from '@/server/http/receive-file';
import { statusOf } from '@/server/http/route';
import { freeBytes, inspectionPath } from '@/server/media/media-folder';
import { config as settings } from '@/server/process/config';
import { log } from '@/server/process/log';
import { FOREIGN_REQUEST, isOwnRequest } from '@/server/process/origin';

/** A Pages route: a file is streamed to disk, never held in memory. */
export const config = { api: { bodyParser: false, responseLimit: false } };

const Query = z.object({
  lesson: LessonId,
  name: z.string().min(1).max(300),
  /** Place of the video where it is added. */
  at: z.coerce.number().int().min(0).default(0),
});

/** Takes a file into a lesson: a video, a sound, a still or slides. A job makes a take of it; whoever goes away before it has arrived has not brought it in. */
export default async function handle(request: NextApiRequest, response: NextApiResponse) {
  if (!isOwnRequest(request.headers.host ?? null, request.headers.origin ?? null, settings().allowedHosts))
    return response.status(403).json(FOREIGN_REQUEST);
  const query = Query.safeParse(request.query);
  if (request.method !== 'POST' || !query.success)
    return response.status(400).json({
      code: 'bad-input',
      message: 'Send the file by POST, with its lesson and its name in the address.',
    });
  const path = inspectionPath();
  let isGone = false;
  response.once('close', () => {
    isGone = true;
  });
  try {
    await receiveFile(request, path, (await freeBytes()) - settings().leastFreeBytes);
    const { lesson, name, at } = query.data;
    response.status(200).json(await orderIncoming(lesson, path, name, at));
  } catch (error) {
    const problem = problemOf(error);
    if (problem.code === 'unexpected' && !isGone) log().warn({ err: error }, 'a file to be brought in');
    if (!response.headersSent) response.status(statusOf(problem)).json(problem);
  } finally {
    await rm(path, { force: true });
  }
}

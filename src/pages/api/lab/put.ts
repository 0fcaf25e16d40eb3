import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import { uploadsDir } from '@/server/media/media-folder';
import { config as settings } from '@/server/process/config';
import { FOREIGN_REQUEST, isOwnRequest } from '@/server/process/origin';

export const config = { api: { bodyParser: false, externalResolver: true } };

/** What the benchmark of uploads is measured against: a body, streamed into a file. Only there when the studio runs with LAB=1. */
export default async function handle(request: NextApiRequest, response: NextApiResponse) {
  if (!isOwnRequest(request.headers.host ?? null, request.headers.origin ?? null, settings().allowedHosts))
    return response.status(403).json(FOREIGN_REQUEST);
  if (!settings().lab || request.method !== 'PUT')
    return response.status(404).json({ code: 'not-found', message: 'There is nothing here.' });
  await mkdir(uploadsDir(), { recursive: true });
  const path = join(uploadsDir(), 'lab-put');
  try {
    await pipeline(request, createWriteStream(path));
    response.json({ ok: true });
  } finally {
    await rm(path, { force: true });
  }
}

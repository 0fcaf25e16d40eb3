import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import {
  ALREADY_CONFIRMED,
  LARGEST_SEGMENT_BYTES,
  parseUploadName,
  UPLOAD_BEGUN,
  uploadName,
} from '@/core/recording/upload';
import { Segment } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { freeBytes, uploadsDir } from '../media/media-folder';
import { config } from '../process/config';
import { log } from '../process/log';

let server: Server | undefined;

const DISK_FULL = {
  code: 'disk-full',
  message: 'The studio’s disk is full.',
  hint: 'The take is kept in this browser. Uploading continues automatically when there is free space.',
};
/** With less than this a write that failed has failed for want of room. */
const FULL_BYTES = 5_000_000;

const refuse = (status_code: number, code: string, message: string, hint?: string) => ({
  status_code,
  body: JSON.stringify({ code, message, hint }),
});

/** Takes in the parts of announced segments. An upload is named for its segment, so that both sides know its address. */
export function uploads(): Server {
  if (server) return server;
  mkdirSync(uploadsDir(), { recursive: true });
  server = new Server({
    path: '/api/uploads',
    datastore: new FileStore({ directory: uploadsDir() }),
    maxSize: LARGEST_SEGMENT_BYTES,
    relativeLocation: true,
    namingFunction: (_request, metadata) => {
      const name = parseUploadName(metadata?.name ?? '');
      if (!name) throw refuse(400, 'bad-input', 'name: is not the name of a segment’s part.');
      return uploadName(name.segment, name.part);
    },
    onUploadCreate: async (_request, upload) => {
      const name = parseUploadName(upload.id);
      const segment = name && (await (await unitOfWork()).findOne(Segment, { id: name.segment }));
      if (!name || !segment)
        throw refuse(404, 'not-found', 'There is no such segment.', 'Announce it first.');
      if (segment.state === 'confirmed')
        throw refuse(409, ALREADY_CONFIRMED, 'This segment is already confirmed.', 'Confirm it again.');
      // Creating it again would empty it. The description is written last: without one nothing was sent yet.
      if (existsSync(join(uploadsDir(), `${upload.id}.json`)))
        throw refuse(409, UPLOAD_BEGUN, 'This upload is already begun.', 'Get its offset with HEAD.');
      return { metadata: upload.metadata };
    },
    onIncomingRequest: async (request) => {
      if (request.method !== 'PATCH' && request.method !== 'POST') return;
      if ((await freeBytes()) < config().leastFreeBytes)
        throw refuse(507, DISK_FULL.code, DISK_FULL.message, DISK_FULL.hint);
    },
    onResponseError: async (_request, error) => {
      if ('status_code' in error && error.body?.startsWith('{')) return undefined;
      // The protocol's own refusals are sentences; everything the studio says has one shape.
      if ('status_code' in error && error.status_code < 500)
        return refuse(error.status_code, 'upload-refused', error.body.trim());
      log().error({ err: error }, 'upload failed');
      if ((await freeBytes()) < FULL_BYTES)
        return refuse(507, DISK_FULL.code, DISK_FULL.message, DISK_FULL.hint);
      return refuse(
        500,
        'unexpected',
        'The studio could not write the upload.',
        'The upload is retried automatically.',
      );
    },
  });
  return server;
}

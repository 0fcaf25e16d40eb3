import { rm } from 'node:fs/promises';
import type { IncomingId } from '@/core/base/ids';
import { bringFile } from '../bring/bring-file';
import { removeIncoming } from '../bring/incoming';
import { Incoming } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { runJob } from '../jobs/run-job';
import { incomingPath } from '../media/media-folder';

/** Makes a take of a file that somebody brought in. */
export const bringIncoming = (id: IncomingId): Promise<void> =>
  runJob(
    'bring-file',
    id,
    async (report, signal) => {
      const em = await unitOfWork();
      const { lesson, name, takeId: take } = await em.findOneOrFail(Incoming, { id });
      const path = incomingPath(id);
      // What a killed worker left: its programs ended with it.
      await rm(`${path}.parts`, { recursive: true, force: true });
      return bringFile({ lesson: lesson.id, path, name, take, size: null }, report, signal);
    },
    async (_, brought) => {
      if (brought) await (await unitOfWork()).nativeUpdate(Incoming, { id }, brought);
      await removeIncoming(id);
    },
  );

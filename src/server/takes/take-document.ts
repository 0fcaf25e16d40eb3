import { readFile, writeFile } from 'node:fs/promises';
import type { TakeId } from '@/core/base/ids';
import { TakeDocument } from '@/core/keeping/take-document';
import type { TakeEnd } from '@/core/recording/take';
import { Take } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { segmentHeads, segmentsOf } from '../db/take-segments';
import { makeFile, takeDocumentPath } from '../media/media-folder';
import { log } from '../process/log';

/** The end of a take as its row has it; null while it is on its way. */
function endOf(take: Take): TakeEnd | null {
  if (take.state === 'recording' || take.state === 'uploading' || take.partial) return null;
  const segments = segmentsOf(take).map(({ id }) => id);
  return {
    durationUs: take.durationUs ?? 0,
    pauses: take.pauses ?? [],
    ledger: take.ledger ?? {},
    segments,
    absent: [],
    cutOff: take.cutOff,
  };
}

/** Writes what the database knows of a take beside its media, so that the folder alone is enough to list the take again. */
export async function writeTakeDocument(id: TakeId): Promise<void> {
  const em = await unitOfWork();
  const take = await em.findOne(Take, { id }, { populate: ['lesson', 'tracks.segments'] });
  if (!take) return;
  const document: TakeDocument = {
    v: 1,
    head: {
      id,
      lessonId: take.lesson.id,
      rig: take.rig,
      startedAt: take.startedAt.toISOString(),
      browser: take.browser,
      machine: take.machine,
    },
    lesson: { id: take.lesson.id, title: take.lesson.title },
    number: take.number,
    title: take.title ?? null,
    segments: segmentHeads(take),
    end: endOf(take),
  };
  await makeFile(takeDocumentPath(id), (temporary) => writeFile(temporary, JSON.stringify(document))).catch(
    // The rows say the same: a disk that is full in this moment must not refuse the take.
    (error) => log().warn({ err: error, take: id }, 'the take’s document could not be written'),
  );
}

/** @returns null where there is none, or one that this release cannot read: the media tell what they can */
export async function readTakeDocument(id: TakeId): Promise<TakeDocument | null> {
  const text = await readFile(takeDocumentPath(id), 'utf8').catch(() => null);
  if (text === null) return null;
  try {
    return TakeDocument.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

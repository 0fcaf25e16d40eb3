import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { bytesText } from '@/core/base/figures';
import { newLessonId, type TakeId } from '@/core/base/ids';
import { pairingSentence } from '@/core/keeping/pairing';
import type { TakeDocument } from '@/core/keeping/take-document';
import type { SegmentHead } from '@/core/recording/take';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { Lesson, Segment, Take, Track } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { pair, readPairing, takeFolders } from '../keeping/pairing';
import { bytesOf, namesIn, segmentPath, sha256Of, sizeOf, takeDir } from '../media/media-folder';
import { recognizeSegments } from '../media/recognize';
import { finishWithArrived, orderFinishing } from '../takes/arrival';
import { readTakeDocument, writeTakeDocument } from '../takes/take-document';

export type Adopted = {
  take: TakeId;
  lesson: string;
  bytes: number;
  /** `document`: the folder said what it is; `media`: recognized from the files. */
  from: 'document' | 'media' | 'nothing';
};
export type AdoptReport = { adopted: Adopted[]; problem: string | null };

const RECOVERED = 'Recovered recordings';
const RECOVERED_BROWSER = 'recovered from the media folder';

/**
 * Lists every take again that has a folder but no row, and marks database and media folder as belonging together.
 * @param apply otherwise only says what would be done
 * @param anyway also pairs an empty media folder with a database that lists takes
 */
export async function adopt(apply: boolean, anyway = false): Promise<AdoptReport> {
  const state = await readPairing();
  if (state === 'media-missing' && !anyway)
    return { adopted: [], problem: `${pairingSentence(state)} If it is, run npm run adopt -- --anyway.` };
  const em = await unitOfWork();
  const known = new Set((await em.find(Take, {}, { fields: ['id'] })).map(({ id }) => id));
  const adopted: Adopted[] = [];
  for (const id of await takeFolders()) if (!known.has(id)) adopted.push(await adoptTake(id, apply));
  if (apply) await pair();
  return { adopted, problem: null };
}

/** Lists one take again from what lies in its folder. */
export async function adoptTake(id: TakeId, apply = true): Promise<Adopted> {
  const document = await readTakeDocument(id);
  const segments = document?.segments ?? (await recognizeSegments(id));
  const adopted: Adopted = {
    take: id,
    lesson: document?.lesson.title ?? RECOVERED,
    bytes: (await bytesOf(takeDir(id))) ?? 0,
    from: document ? 'document' : segments.length > 0 ? 'media' : 'nothing',
  };
  if (!apply || adopted.from === 'nothing') return adopted;
  await makeRows(id, document, segments);
  if (document?.end) await orderFinishing(id);
  else await finishWithArrived(id, document !== null);
  await writeTakeDocument(id);
  return adopted;
}

async function makeRows(id: TakeId, document: TakeDocument | null, segments: readonly SegmentHead[]) {
  const kept = await Promise.all(segments.map((segment) => filesOf(id, segment)));
  const startedAt = document ? new Date(document.head.startedAt) : await oldestFile(id);
  const em = await unitOfWork();
  await em.transactional(async (tx) => {
    const lesson = await lessonFor(tx, document);
    const takes = await tx.find(Take, { lesson }, { fields: ['number'] });
    const free = Math.max(0, ...takes.map(({ number }) => number)) + 1;
    const isTaken = takes.some(({ number }) => number === document?.number);
    const end = document?.end;
    const take = tx.create(Take, {
      id,
      lesson,
      number: document && !isTaken ? document.number : free,
      title: document?.title ?? null,
      state: 'uploading',
      rig: document?.head.rig ?? PRACTICE_RIG,
      startedAt,
      browser: document?.head.browser ?? RECOVERED_BROWSER,
      machine: document?.head.machine ?? { cores: 0, memoryGb: null },
      durationUs: end?.durationUs ?? null,
      pauses: end?.pauses ?? null,
      ledger: end?.ledger ?? null,
      cutOff: end?.cutOff ?? false,
    });
    const tracks = new Map<string, Track>();
    segments.forEach(({ id: segment, track: kind, ...head }, i) => {
      const track = tracks.get(kind) ?? tx.create(Track, { take, kind });
      tracks.set(kind, track);
      tx.create(Segment, { id: segment, track, ...head, ...kept[i], state: kept[i]?.state ?? 'expected' });
    });
    lesson.updatedAt = new Date();
  });
}

/** What is there of a segment: whole when both of its files are. */
async function filesOf(take: TakeId, { id }: SegmentHead) {
  const media = segmentPath(take, id, 'media');
  const [bytes, indexBytes] = await Promise.all([sizeOf(media), sizeOf(segmentPath(take, id, 'index'))]);
  if (bytes === null) return { state: 'expected' as const };
  return {
    ...{ bytes, indexBytes: indexBytes ?? 0, sha256: await sha256Of(media) },
    state: indexBytes === null ? ('partial' as const) : ('confirmed' as const),
  };
}

/** The take's own lesson where it is listed; one of its name otherwise, so that takes of one lesson come together again. */
async function lessonFor(tx: UnitOfWork, document: TakeDocument | null): Promise<Lesson> {
  const own = document && (await tx.findOne(Lesson, { id: document.lesson.id }));
  if (own) {
    own.deletedAt = null;
    return own;
  }
  if (document)
    return tx.create(Lesson, { ...document.lesson, stage: 'record', rig: document.head.rig, rigRevision: 0 });
  const recovered = await tx.findOne(Lesson, { title: RECOVERED, deletedAt: null });
  return (
    recovered ??
    tx.create(Lesson, {
      id: newLessonId(),
      title: RECOVERED,
      stage: 'record',
      rig: PRACTICE_RIG,
      rigRevision: 0,
    })
  );
}

async function oldestFile(id: TakeId): Promise<Date> {
  const times = await Promise.all(
    (await namesIn(takeDir(id))).map(async (name) => (await stat(join(takeDir(id), name))).mtimeMs),
  );
  return new Date(Math.min(Date.now(), ...times));
}

/** What adopting did, in sentences. @param apply whether it was done, or only looked at */
export function adoptText({ adopted, problem }: AdoptReport, apply: boolean): string {
  if (problem) return problem;
  const how = { document: 'from take.json', media: 'recognized from its files', nothing: 'has no media' };
  const lines = adopted.map(
    ({ take, lesson, bytes, from }) => `${take}: ${lesson}, ${bytesText(bytes)}, ${how[from]}`,
  );
  const count = adopted.filter(({ from }) => from !== 'nothing').length;
  const what = count === 1 ? '1 take' : `${count} takes`;
  lines.push(apply ? `${what} listed again.` : `${what} would be listed again.`);
  return lines.join('\n');
}

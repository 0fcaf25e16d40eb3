/**
 * Follows the journal and brings it to the server: while a take is recorded, after it, and after a crash. A segment's files
 * are removed here only when the server has confirmed their size and hash. One worker of all tabs does it at a time.
 */
import { createSHA256, type IHasher } from 'hash-wasm';
import { LessonId, type SegmentId, type TakeId } from '@/core/ids';
import { Problem, ProblemError, problemOf } from '@/core/problem';
import type { SegmentHead, SegmentPart, TakeEnd } from '@/core/take';
import {
  endOfCutOff,
  isDiscarded,
  type Journal,
  journalledTakes,
  partName,
  readJournal,
  removeTake,
  takeFolder,
  takeLock,
  writeDocument,
} from '../journal';
import { openSyncFile } from '../worker/journal-file';
import { ToUploader, type UploadNews } from './messages';
import { ANSWER_MS, begin, sendUpTo, standing, type Upload } from './tus';

const ROUND_MS = 500;
/** After a failure the next rounds come later: the server may be away for a while. */
const LONGEST_WAIT_MS = 15_000;
/** Less than this is not sent while the take still grows, unless it is the first. */
const LEAST_BYTES = 128 * 1024;
/** Read at once for the hash. */
const PIECE_BYTES = 4 * 1024 * 1024;
const PARTS: readonly SegmentPart[] = ['media', 'index'];

const uploads = new Map<string, Upload>();
const hashes = new Map<string, { hash: IHasher; at: number }>();
const announced = new Set<string>();
const confirmed = new Set<string>();
const arrived: UploadNews['arrived'] = [];
/** Ends of takes that were cut off. */
const ends = new Map<TakeId, TakeEnd>();

async function call(method: 'PUT' | 'POST' | 'DELETE', path: string, body?: unknown): Promise<unknown> {
  const headers = { 'content-type': 'application/json' };
  const response = await fetch(path, {
    method,
    headers,
    body: body === undefined ? undefined : JSON.stringify(body),
    // Confirming reads the whole segment on the server.
    signal: AbortSignal.timeout(4 * ANSWER_MS),
  }).catch((cause) => {
    throw new ProblemError({ code: 'unreachable', message: 'The server cannot be reached.' }, { cause });
  });
  if (response.ok) return response.json();
  const problem = Problem.safeParse(await response.json().catch(() => null));
  throw new ProblemError(
    problem.success
      ? problem.data
      : { code: 'unexpected', message: `The server answered ${response.status}.` },
  );
}

/** Does something on the server once in this worker's life; it may be done again by another, all of it is idempotent. */
async function once(key: string, work: () => Promise<unknown>): Promise<void> {
  if (announced.has(key)) return;
  await work();
  announced.add(key);
}

async function isLive(id: TakeId): Promise<boolean> {
  const { held } = await navigator.locks.query();
  return held?.some((lock) => lock.name === takeLock(id)) ?? false;
}

/** Brings one part as far as it goes. @returns bytes here and bytes there */
async function follow(
  folder: FileSystemDirectoryHandle,
  takeId: TakeId,
  segment: SegmentId,
  part: SegmentPart,
  whole: boolean,
): Promise<[number, number]> {
  const name = partName(segment, part);
  if (confirmed.has(name)) return [0, 0];
  const handle = await folder.getFileHandle(name).catch(() => null);
  if (!handle) return [0, 0];
  const file = await openSyncFile(handle);
  try {
    const size = file.getSize();
    let upload = uploads.get(name) ?? (await standing(segment, part)) ?? (await begin(segment, part));
    if (upload) {
      uploads.set(name, upload);
      const waiting = size - upload.offset;
      if (!whole && waiting < LEAST_BYTES && upload.offset > 0) return [size, upload.offset];
      // A file that still grows cannot be read by slices: they are void after the next write.
      const closed = whole ? await handle.getFile() : null;
      const read = (from: number, to: number): Blob => {
        if (closed) return closed.slice(from, to);
        const bytes = new Uint8Array(to - from);
        file.read(bytes, { at: from });
        return new Blob([bytes]);
      };
      // Until it has gone well: the server knows best where it stands, and the next round asks.
      uploads.delete(name);
      upload = await sendUpTo(upload, { size, whole, read });
      uploads.set(name, upload);
    }
    // Without an upload the server says that it has all of it; that is believed when the hash agrees.
    const sent = upload?.offset ?? size;
    const hash = await hashUpTo(name, file, sent);
    if (whole && sent === size) {
      const sha256 = hash.digest('hex');
      // A digest ends the hash: should the confirmation fail, the next round begins anew.
      hashes.delete(name);
      await call('POST', `/api/takes/${takeId}/segments/${segment}/confirm`, { part, bytes: size, sha256 });
      confirmed.add(name);
    }
    return [size, sent];
  } finally {
    file.close();
    if (confirmed.has(name)) await folder.removeEntry(name);
  }
}

/** Hashes what was sent as it goes, so that a long take need not be read again at its end. */
async function hashUpTo(
  name: string,
  file: { read: (into: Uint8Array, options: { at: number }) => number },
  end: number,
): Promise<IHasher> {
  const known = hashes.get(name) ?? { hash: await createSHA256(), at: 0 };
  hashes.set(name, known);
  const piece = new Uint8Array(Math.min(PIECE_BYTES, end - known.at));
  while (known.at < end) {
    const read = file.read(piece.subarray(0, Math.min(piece.length, end - known.at)), { at: known.at });
    known.hash.update(piece.subarray(0, read));
    known.at += read;
  }
  return known.hash;
}

/** Waits for all, also when one fails: nothing of a round may still be at work in the next. @throws the first failure */
async function settled(all: Promise<unknown>[]): Promise<void> {
  for (const outcome of await Promise.allSettled(all))
    if (outcome.status === 'rejected') throw outcome.reason;
}

async function bring(id: TakeId): Promise<UploadNews['takes'][number] | null> {
  const live = await isLive(id);
  if (await isDiscarded(id)) {
    if (live) return null;
    await call('DELETE', `/api/takes/${id}`);
    await removeTake(id);
    return null;
  }
  const journal = await readJournal(id);
  if (!journal) {
    // Begun, but cut off before its head was whole: there is nothing in it. A live one is just being begun.
    if (!live) await removeTake(id);
    return null;
  }
  const folder = await takeFolder(id, false);
  // A take that was cut off gets its end now, while the packet indexes that tell it are still here.
  if (!live && !journal.end) {
    journal.end = ends.get(id) ?? (await endOfCutOff(journal));
    ends.set(id, journal.end);
    // A full storage takes it later, when the first segments have gone.
    await writeDocument(folder, 'end.json', journal.end).catch(() => undefined);
  }
  await once(id, () => call('PUT', `/api/takes/${id}`, journal.head));
  let [localBytes, sentBytes] = [0, 0];
  // All at once: most of the time of small parts is waiting for an answer.
  await settled(
    journal.segments.map(async (segment) => {
      await once(segment.id, () => call('PUT', `/api/takes/${id}/segments/${segment.id}`, segment));
      const whole = journal.closed.has(segment.id) || !live;
      await settled(
        PARTS.map(async (part) => {
          const [local, sent] = await follow(folder, id, segment.id, part, whole);
          localBytes += local;
          sentBytes += sent;
        }),
      );
    }),
  );
  if (!live && (await isLast(id, journal))) return null;
  return { id, live, localBytes, sentBytes, startedAt: journal.head.startedAt, problem: null };
}

/** All segments have arrived: the take is ended on the server, then its journal goes. */
async function isLast(id: TakeId, journal: Journal): Promise<boolean> {
  const now = await readJournal(id);
  // It may have ended between reading the journal and here; then there is more to bring.
  const end = now?.end ?? ends.get(id);
  if (!now || now.segments.length !== journal.segments.length || !end) return false;
  const names = (segment: SegmentHead) => PARTS.map((part) => partName(segment.id, part));
  const folder = await takeFolder(id, false);
  for (const name of now.segments.flatMap(names)) {
    const still = await folder.getFileHandle(name).catch(() => null);
    if (still) return false;
  }
  await call('POST', `/api/takes/${id}/end`, end);
  await removeTake(id);
  arrived.push({ id, cutOff: end.cutOff, durationUs: end.durationUs });
  return true;
}

/** What is here of a take that could not be brought. */
async function stuckTake(id: TakeId, problem: Problem): Promise<UploadNews['takes'][number] | null> {
  const journal = await readJournal(id);
  if (!journal) return null;
  const folder = await takeFolder(id, false);
  let localBytes = 0;
  for (const { id: segment } of journal.segments) {
    const handle = await folder.getFileHandle(partName(segment, 'media')).catch(() => null);
    if (handle) localBytes += (await handle.getFile()).size;
  }
  const { startedAt } = journal.head;
  return { id, live: await isLive(id), localBytes, sentBytes: 0, startedAt, problem };
}

/** Makes a lesson for a take that has lost its own. */
async function adopt(id: TakeId): Promise<void> {
  const journal = await readJournal(id);
  if (!journal) return;
  const lesson = LessonId.parse(
    ((await call('POST', '/api/lessons', { title: 'Recovered recording' })) as { id?: unknown }).id,
  );
  await writeDocument(await takeFolder(id, false), 'take.json', { ...journal.head, lessonId: lesson });
}

async function round(): Promise<Problem | null> {
  const news: UploadNews = { takes: [], arrived, problem: null };
  for (const id of await journalledTakes()) {
    try {
      const take = await bring(id);
      if (take) news.takes.push(take);
    } catch (error) {
      // One take that cannot be brought must not keep the others back.
      news.problem = problemOf(error);
      const stuck = await stuckTake(id, news.problem).catch(() => null);
      if (stuck) news.takes.push(stuck);
    }
  }
  postMessage(news);
  return news.problem;
}

let hurry = () => {};

// Held for the life of this worker; another tab's uploader waits for it and takes over when this one is gone.
void navigator.locks.request('uploader', async () => {
  let wait = ROUND_MS;
  for (;;) {
    const problem = await round().catch((error) => problemOf(error));
    wait = problem ? Math.min(wait * 2, LONGEST_WAIT_MS) : ROUND_MS;
    await new Promise<void>((done) => {
      hurry = done;
      setTimeout(done, wait);
    });
  }
});

// A take was just ended: somebody wants to watch it. Or the network is back.
self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = ToUploader.parse(data);
  const done = message.type === 'adopt' ? adopt(message.take) : Promise.resolve();
  void done.catch((error) => console.error('The take could not be adopted.', error)).finally(() => hurry());
};

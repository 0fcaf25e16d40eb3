import { createSHA256, type IHasher } from 'hash-wasm';
import type { SegmentId, TakeId } from '@/core/base/ids';
import { ProblemError, problemOf } from '@/core/base/problem';
import type { SegmentPart } from '@/core/recording/take';
import { HASH_DIFFERS, UPLOAD_BEGUN } from '@/core/recording/upload';
import { partName } from '../journal';
import { openSyncFile, type SyncFile } from '../worker/journal-file';
import type { ServerCalls } from './server-calls';
import { sendUpTo, type Upload } from './tus';

/** Less than this is not sent while the take still grows, unless it is the first. */
const LEAST_BYTES = 128 * 1024;
/** Read at once for the hash of what was sent before this worker's time. */
const PIECE_BYTES = 4 * 1024 * 1024;

/** A hash of a file's first `at` bytes. */
type Hashed = { hash: IHasher; at: number };

/** What an uploader knows of the parts that it follows. All of it can be asked again. */
export type Followed = {
  /** Uploads with their offsets; `unknown` where a request failed and only the server knows it. */
  uploads: Map<string, Upload | 'unknown'>;
  hashes: Map<string, Hashed>;
  /** Parts that the server has confirmed. */
  confirmed: Set<string>;
};
export const nothingFollowed = (): Followed => ({
  uploads: new Map(),
  hashes: new Map(),
  confirmed: new Set(),
});

export type PartToFollow = {
  folder: FileSystemDirectoryHandle;
  take: TakeId;
  segment: SegmentId;
  part: SegmentPart;
  /** Nothing will be added to the file. */
  whole: boolean;
  /** `performance.now()` at which the turn ends. */
  untilMs: number;
};

/** Bytes of a part here and on the server; `here` is null where there is no such file. */
export type PartProgress = { here: number | null; there: number };

/**
 * Sends one part as far as it goes, and removes it here when the server has confirmed its size and hash. Each byte is read once: it is
 * hashed on its way out.
 */
export async function followPart(
  known: Followed,
  server: ServerCalls,
  to: PartToFollow,
): Promise<PartProgress> {
  const { folder, segment, part, whole } = to;
  const name = partName(segment, part);
  if (known.confirmed.has(name)) return { here: 0, there: 0 };
  const handle = await folder.getFileHandle(name).catch(() => null);
  if (!handle) return { here: null, there: 0 };
  const file = await openSyncFile(handle);
  try {
    const size = file.getSize();
    const upload = await sendPart(known, server, to, file, size);
    // Without an upload the server says that it has all of it; that is believed when the hash agrees.
    const there = Math.min(size, upload?.offset ?? size);
    if (whole && there === size) await confirm(known, server, to, file, size);
    return { here: size, there };
  } finally {
    file.close();
    if (known.confirmed.has(name)) await folder.removeEntry(name);
  }
}

/**
 * The upload of a part: begun where it is new, so that nothing is asked for that cannot be there.
 * @returns null when the server has the segment for good already
 */
async function openUpload(
  known: Upload | 'unknown' | undefined,
  server: ServerCalls,
  segment: SegmentId,
  part: SegmentPart,
): Promise<Upload | null> {
  if (known && known !== 'unknown') return known;
  const standing = known && (await server.standing(segment, part));
  if (standing) return standing;
  try {
    return await server.begin(segment, part);
  } catch (error) {
    // Another visit of this browser began it.
    if (problemOf(error).code !== UPLOAD_BEGUN) throw error;
    return server.standing(segment, part);
  }
}

async function sendPart(
  { uploads, hashes }: Followed,
  server: ServerCalls,
  { segment, part, whole, untilMs }: PartToFollow,
  file: SyncFile,
  size: number,
): Promise<Upload | null> {
  const name = partName(segment, part);
  const upload = await openUpload(uploads.get(name), server, segment, part);
  if (!upload) return null;
  uploads.set(name, upload);
  // More than is here: the end of this file was lost, as in a power cut. The server keeps what it has.
  if (upload.offset > size) return upload;
  if (!whole && size - upload.offset < LEAST_BYTES && upload.offset > 0) return upload;
  const hashed = await hashUpTo(hashes, name, file, upload.offset);
  const read = (from: number, end: number): Blob => {
    const bytes = readFully(file, from, end);
    // A piece that is sent again was hashed already.
    hashed.hash.update(bytes.subarray(Math.max(0, hashed.at - from)));
    hashed.at = Math.max(hashed.at, end);
    return new Blob([bytes]);
  };
  // Set again on success. After a failure the next turn asks the server for the offset.
  uploads.set(name, 'unknown');
  const now = await sendUpTo(upload, { size, whole, read, untilMs, transmit: server.send });
  uploads.set(name, now);
  return now;
}

async function confirm(
  { uploads, hashes, confirmed }: Followed,
  server: ServerCalls,
  { take, segment, part }: PartToFollow,
  file: SyncFile,
  size: number,
): Promise<void> {
  const name = partName(segment, part);
  const { hash } = await hashUpTo(hashes, name, file, size);
  const sha256 = hash.digest('hex');
  // A digest ends the hash: should the confirmation fail, the next turn begins it again.
  hashes.delete(name);
  try {
    await server.confirm(take, segment, part, size, sha256);
  } catch (error) {
    // The server has moved what it had aside: the next turn finds no upload and sends everything again.
    if (problemOf(error).code === HASH_DIFFERS) uploads.delete(name);
    throw error;
  }
  confirmed.add(name);
}

/** A hash of the file's bytes up to a place. What this worker sends is hashed on its way; this reads what was sent before. */
async function hashUpTo(
  hashes: Map<string, Hashed>,
  name: string,
  file: SyncFile,
  end: number,
): Promise<Hashed> {
  const known = hashes.get(name) ?? { hash: await createSHA256(), at: 0 };
  hashes.set(name, known);
  while (known.at < end) {
    const to = Math.min(end, known.at + PIECE_BYTES);
    known.hash.update(readFully(file, known.at, to));
    known.at = to;
  }
  return known;
}

/** @throws {ProblemError} `file-shrank` when the file ends before: a storage that lost something would otherwise be asked for ever */
function readFully(file: SyncFile, from: number, to: number): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(to - from);
  for (let done = 0; done < bytes.length; ) {
    const read = file.read(bytes.subarray(done), { at: from + done });
    if (read <= 0)
      throw new ProblemError({
        code: 'file-shrank',
        message: 'The browser’s storage gave less of this recording than it has.',
        hint: 'Save its files from the list of recordings in this browser.',
      });
    done += read;
  }
  return bytes;
}

/** SHA-256 of no bytes. */
const EMPTY_SHA256 = 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855';

/**
 * A packet index that is not here although its media is, or was: where the server has none either, an empty one takes its place, so that
 * the segment can be complete.
 */
export async function followMissingIndex(
  { confirmed }: Followed,
  server: ServerCalls,
  take: TakeId,
  segment: SegmentId,
): Promise<void> {
  const name = partName(segment, 'index');
  if (confirmed.has(name)) return;
  const confirmEmpty = () => server.confirm(take, segment, 'index', 0, EMPTY_SHA256);
  try {
    // Whatever index the server has begins with no bytes.
    await confirmEmpty();
  } catch (error) {
    if (problemOf(error).code !== 'conflict') throw error;
    const upload = await openUpload(undefined, server, segment, 'index');
    if (upload && upload.offset === 0) await server.send(upload, new Blob([]), 0);
    await confirmEmpty();
  }
  confirmed.add(name);
}

import { z } from 'zod';
import { SegmentId, type TakeId } from '@/core/base/ids';
import { SegmentHead, type SegmentPart, type TakeHead } from '@/core/recording/take';

/**
 * The journal: one folder a take in the browser's own storage (OPFS).
 *   take.json        the take's head with the journal's version, written before the first frame
 *   segments.jsonl   a line when a segment opens, a line when it is closed
 *   ID.media         the segment's Matroska (events: JSON lines), only ever appended to
 *   ID.index         a line a packet: µs, bytes, key
 *   end.json         written last
 *   discarded.json   the take was thrown away: whatever of it is here or on the server is removed
 * A journal without end.json was cut off; everything that it lists is whole.
 *
 * Each version has a root folder of its own, so that a page of an earlier release that is still open never sees it. Version 1 was in
 * `journal` and its head had no version. Every later version must be able to read the earlier ones.
 */
export const JOURNAL_VERSION = 2;
const FIRST_ROOT = 'journal';
const ROOT = `${FIRST_ROOT}-${JOURNAL_VERSION}`;

export const SegmentLine = z.union([
  z.object({ open: SegmentHead }),
  z.object({ closed: SegmentId, media: z.int(), index: z.int() }),
]);
export type SegmentLine = z.infer<typeof SegmentLine>;

export const partName = (id: SegmentId, part: SegmentPart) => `${id}.${part}`;

/** Held by whoever records a take, for as long as its files may grow. */
export const takeLock = (id: string) => `take:${id}`;

/** Held by the one tab that records: encoders of two would compete for the processor. */
export const RECORDING_LOCK = 'recording';
/** Code of the refusal to record beside it. */
export const RECORDED_ELSEWHERE = 'recorded-elsewhere';

/** Held by the uploader of a journal version. Version 1 had no number. */
export const uploaderLock = (version: number) => (version === 1 ? 'uploader' : `uploader:${version}`);

/** One take's folder, wherever it is. */
export type JournalEntry = {
  /** Unique among all of them. */
  key: string;
  /** Of the root that it is in; a page of that release may be handling it. */
  version: number;
  /** A take's id, if the studio made the folder. */
  name: string;
  folder: FileSystemDirectoryHandle;
};

const storage = () => navigator.storage.getDirectory();

/** Folders can be listed in workers and pages; the page's type library leaves the method out. */
export async function* entriesOf(
  folder: FileSystemDirectoryHandle,
): AsyncIterable<[string, FileSystemHandle]> {
  yield* folder as unknown as AsyncIterable<[string, FileSystemHandle]>;
}

/** Every take that has a journal here, of this version and of all others. */
export async function journalEntries(): Promise<JournalEntry[]> {
  const found: JournalEntry[] = [];
  for await (const [root, handle] of entriesOf(await storage())) {
    const version = root === FIRST_ROOT ? 1 : Number(/^journal-(\d+)$/.exec(root)?.[1] ?? Number.NaN);
    if (handle.kind !== 'directory' || !Number.isSafeInteger(version)) continue;
    for await (const [name, inside] of entriesOf(handle as FileSystemDirectoryHandle))
      if (inside.kind === 'directory')
        found.push({
          key: `${root}/${name}`,
          version,
          name,
          folder: inside as FileSystemDirectoryHandle,
        });
  }
  return found;
}

/** The folder of a take of this version. */
export async function takeFolder(id: TakeId, create: boolean): Promise<FileSystemDirectoryHandle> {
  const root = await (await storage()).getDirectoryHandle(ROOT, { create: true });
  return root.getDirectoryHandle(id, { create });
}

/** Where rehearsals are recorded: the uploader never looks there, and nothing there outlives the next rehearsal. */
const REHEARSALS = 'rehearsals';

/** An empty folder for a rehearsal; that of the one before it is removed. */
export async function newRehearsalFolder(id: TakeId): Promise<FileSystemDirectoryHandle> {
  await remove(await storage(), REHEARSALS);
  return rehearsalFolder(id);
}

export async function rehearsalFolder(id: TakeId): Promise<FileSystemDirectoryHandle> {
  const root = await (await storage()).getDirectoryHandle(REHEARSALS, { create: true });
  return root.getDirectoryHandle(id, { create: true });
}

/** Removes a take's folder with everything in it. Ask `mediaBytes` before, unless its owner wants it gone. */
export async function removeEntry({ key, name }: Pick<JournalEntry, 'key' | 'name'>): Promise<void> {
  const [root = ROOT] = key.split('/');
  const parent = await (await storage()).getDirectoryHandle(root, { create: true });
  await remove(parent, name);
}

/** Removes a folder with everything in it, if it is there. */
async function remove(parent: FileSystemDirectoryHandle, name: string): Promise<void> {
  await parent.removeEntry(name, { recursive: true }).catch((error) => {
    if (error.name !== 'NotFoundError') throw error;
  });
}

/** Removes a take of this version with everything in it. */
export const removeTake = (id: TakeId): Promise<void> => removeEntry({ key: `${ROOT}/${id}`, name: id });

/** Marks a take as thrown away. The uploader, which may be reading its files, removes them. */
export const discardTake = async (id: TakeId): Promise<void> =>
  writeDocument(await takeFolder(id, false), 'discarded.json', true);

/** The head as the journal keeps it. */
export const writeHead = (folder: FileSystemDirectoryHandle, head: TakeHead): Promise<void> =>
  writeDocument(folder, 'take.json', { v: JOURNAL_VERSION, ...head });

/** Writes a small document at once: it is there whole or not at all. */
export const writeDocument = (
  folder: FileSystemDirectoryHandle,
  name: string,
  document: unknown,
): Promise<void> => writeText(folder, name, JSON.stringify(document));

/** Writes a small text file at once. */
export async function writeText(
  folder: FileSystemDirectoryHandle,
  name: string,
  text: string,
): Promise<void> {
  const file = await folder.getFileHandle(name, { create: true });
  // createWritable works on a copy that replaces the file at close.
  const writable = await file.createWritable();
  await writable.write(text);
  await writable.close();
}

/** @returns null when there is no such file */
export async function readText(folder: FileSystemDirectoryHandle, name: string): Promise<string | null> {
  try {
    return await (await (await folder.getFileHandle(name)).getFile()).text();
  } catch (error) {
    if (error instanceof DOMException && error.name === 'NotFoundError') return null;
    throw error;
  }
}

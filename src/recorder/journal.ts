import { z } from 'zod';
import { SegmentId, type TakeId } from '@/core/ids';
import { SegmentHead, type SegmentPart, TakeEnd, TakeHead } from '@/core/take';

/**
 * The journal: one folder a take in the browser's own storage (OPFS).
 *   take.json        the take's head, written before the first frame
 *   segments.jsonl   a line when a segment opens, a line when it is closed
 *   ID.media         the segment's Matroska (events: JSON lines), only ever appended to
 *   ID.index         a line a packet: µs, bytes, key
 *   end.json         written last
 *   discarded.json   the take was thrown away: whatever of it is here or on the server goes
 * A journal without end.json was cut off; everything that stands in it is whole.
 */
const ROOT = 'journal';

export const SegmentLine = z.union([
  z.object({ open: SegmentHead }),
  z.object({ closed: SegmentId, media: z.int(), index: z.int() }),
]);
export type SegmentLine = z.infer<typeof SegmentLine>;

export const partName = (id: SegmentId, part: SegmentPart) => `${id}.${part}`;

/** Held by whoever records a take, for as long as its files may grow. */
export const takeLock = (id: TakeId) => `take:${id}`;

/** Held by the one tab that records: encoders of two would take each other's time. */
export const RECORDING_LOCK = 'recording';

async function root(): Promise<FileSystemDirectoryHandle> {
  return (await navigator.storage.getDirectory()).getDirectoryHandle(ROOT, { create: true });
}

export const takeFolder = async (id: TakeId, create: boolean): Promise<FileSystemDirectoryHandle> =>
  (await root()).getDirectoryHandle(id, { create });

export async function removeTake(id: TakeId): Promise<void> {
  await (await root()).removeEntry(id, { recursive: true }).catch((error) => {
    if (error.name !== 'NotFoundError') throw error;
  });
}

/** Ids of the takes that have a journal here. */
export async function journalledTakes(): Promise<TakeId[]> {
  const ids: string[] = [];
  for await (const [name, handle] of await root()) if (handle.kind === 'directory') ids.push(name);
  return ids as TakeId[];
}

/** Marks a take as thrown away. The uploader, who may be reading its files, removes them. */
export const discardTake = async (id: TakeId): Promise<void> =>
  writeDocument(await takeFolder(id, false), 'discarded.json', true);

export async function isDiscarded(id: TakeId): Promise<boolean> {
  return (await text(await takeFolder(id, false), 'discarded.json')) !== null;
}

export type Journal = {
  head: TakeHead;
  segments: SegmentHead[];
  closed: Set<SegmentId>;
  end: TakeEnd | null;
};

/** Writes a small document in one go: under another name first, so that it is there whole or not at all. */
export async function writeDocument(
  folder: FileSystemDirectoryHandle,
  name: string,
  document: unknown,
): Promise<void> {
  const file = await folder.getFileHandle(name, { create: true });
  // createWritable works on a copy that takes the file's place at close.
  const writable = await file.createWritable();
  await writable.write(JSON.stringify(document));
  await writable.close();
}

async function text(folder: FileSystemDirectoryHandle, name: string): Promise<string | null> {
  try {
    return await (await (await folder.getFileHandle(name)).getFile()).text();
  } catch (error) {
    if (error instanceof DOMException && error.name === 'NotFoundError') return null;
    throw error;
  }
}

/**
 * What a take's journal says. A torn last line of segments.jsonl is left out.
 * @returns null when there is nothing that could be kept
 */
export async function readJournal(id: TakeId): Promise<Journal | null> {
  let folder: FileSystemDirectoryHandle;
  try {
    folder = await takeFolder(id, false);
  } catch {
    return null;
  }
  const head = TakeHead.safeParse(parsed(await text(folder, 'take.json')));
  if (!head.success) return null;
  const journal: Journal = { head: head.data, segments: [], closed: new Set(), end: null };
  for (const line of ((await text(folder, 'segments.jsonl')) ?? '').split('\n')) {
    const entry = SegmentLine.safeParse(parsed(line));
    if (!entry.success) continue;
    if ('open' in entry.data) journal.segments.push(entry.data.open);
    else journal.closed.add(entry.data.closed);
  }
  const end = TakeEnd.safeParse(parsed(await text(folder, 'end.json')));
  if (end.success) journal.end = end.data;
  return journal;
}

function parsed(json: string | null): unknown {
  try {
    return json ? JSON.parse(json) : undefined;
  } catch {
    return undefined;
  }
}

/**
 * The end of a take that was cut off, from its packet indexes: as long as its longest track.
 */
export async function endOfCutOff(journal: Journal): Promise<TakeEnd> {
  const folder = await takeFolder(journal.head.id, false);
  let durationUs = 0;
  for (const segment of journal.segments) {
    const index = (await text(folder, partName(segment.id, 'index'))) ?? '';
    // The last line may be torn: only lines that were ended count.
    const last = index.slice(0, index.lastIndexOf('\n')).split('\n').at(-1) ?? '';
    const us = Number(last.split(' ')[0]);
    if (Number.isSafeInteger(us)) durationUs = Math.max(durationUs, us);
  }
  return {
    durationUs,
    pauses: [],
    ledger: {},
    segments: journal.segments.map(({ id }) => id),
    cutOff: true,
  };
}

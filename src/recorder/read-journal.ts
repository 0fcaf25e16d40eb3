import { SegmentId } from '@/core/base/ids';
import { type SegmentHead, TakeEnd, TakeHead } from '@/core/recording/take';
import { entriesOf, JOURNAL_VERSION, type JournalEntry, partName, readText, SegmentLine } from './journal';

/** A journal that can be sent. */
export type Journal = {
  head: TakeHead;
  segments: SegmentHead[];
  closed: Set<SegmentId>;
  end: TakeEnd | null;
  /** Media that no line tells of: the line was torn, or is of another version. */
  unlisted: SegmentId[];
};

/** `newer`: a later release wrote it; `damaged`: nothing says what the take is. */
export type JournalRead =
  | { state: 'readable'; journal: Journal }
  | { state: 'unreadable'; why: 'newer' | 'damaged' }
  /** Begun, but cut off before there was any media. */
  | { state: 'empty' };

/** The files with recorded bytes in a journal, by their names. */
export async function mediaFiles(folder: FileSystemDirectoryHandle): Promise<Map<string, File>> {
  const files = new Map<string, File>();
  for await (const [name, handle] of entriesOf(folder)) {
    if (handle.kind !== 'file' || !name.endsWith('.media')) continue;
    const file = await (handle as FileSystemFileHandle).getFile();
    if (file.size > 0) files.set(name, file);
  }
  return files;
}

/** Recorded bytes that are in a journal. */
export async function mediaBytes(folder: FileSystemDirectoryHandle): Promise<number> {
  return [...(await mediaFiles(folder)).values()].reduce((sum, { size }) => sum + size, 0);
}

/** What a take's journal says. Torn lines of segments.jsonl are left out; what they told of is listed as `unlisted`. */
export async function readJournal({ folder }: Pick<JournalEntry, 'folder'>): Promise<JournalRead> {
  const raw = parsed(await readText(folder, 'take.json'));
  const media = [...(await mediaFiles(folder)).keys()];
  const version = versionOf(raw);
  const head = TakeHead.safeParse(raw);
  if (!head.success || version > JOURNAL_VERSION) {
    if (version > JOURNAL_VERSION) return { state: 'unreadable', why: 'newer' };
    return media.length === 0 ? { state: 'empty' } : { state: 'unreadable', why: 'damaged' };
  }
  const journal: Journal = { head: head.data, segments: [], closed: new Set(), end: null, unlisted: [] };
  for (const line of ((await readText(folder, 'segments.jsonl')) ?? '').split('\n')) {
    const entry = SegmentLine.safeParse(parsed(line));
    if (!entry.success) continue;
    if ('open' in entry.data) journal.segments.push(entry.data.open);
    else journal.closed.add(entry.data.closed);
  }
  const listed = new Set(journal.segments.map(({ id }) => partName(id, 'media')));
  journal.unlisted = media.flatMap((name) => {
    const id = SegmentId.safeParse(name.replace(/\.media$/, ''));
    return id.success && !listed.has(name) ? [id.data] : [];
  });
  const end = TakeEnd.safeParse(parsed(await readText(folder, 'end.json')));
  if (end.success) journal.end = end.data;
  return { state: 'readable', journal };
}

function versionOf(raw: unknown): number {
  if (typeof raw !== 'object' || raw === null || !('v' in raw)) return 1;
  return typeof raw.v === 'number' ? raw.v : Number.POSITIVE_INFINITY;
}

function parsed(json: string | null): unknown {
  try {
    return json ? JSON.parse(json) : undefined;
  } catch {
    return undefined;
  }
}

/** Whether the take was thrown away by its owner. */
export const isDiscarded = async (folder: FileSystemDirectoryHandle): Promise<boolean> =>
  (await readText(folder, 'discarded.json')) !== null;

/** The end of a take that was cut off, from its packet indexes: as long as its longest track. */
export async function endOfCutOff(folder: FileSystemDirectoryHandle, journal: Journal): Promise<TakeEnd> {
  let durationUs = 0;
  for (const segment of journal.segments) {
    const index = (await readText(folder, partName(segment.id, 'index'))) ?? '';
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
    absent: [],
    cutOff: true,
  };
}

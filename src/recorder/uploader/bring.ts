import type { TakeId } from '@/core/base/ids';
import { type Problem, ProblemError } from '@/core/base/problem';
import { SegmentPart, type TakeEnd } from '@/core/recording/take';
import { type JournalEntry, partName, type removeEntry, writeDocument, writeHead } from '../journal';
import { endOfCutOff, isDiscarded, type Journal, mediaBytes, readJournal } from '../read-journal';
import { type Followed, followMissingIndex, followPart } from './follow';
import type { WaitingRecording } from './messages';
import type { ServerCalls } from './server-calls';

/** What an uploader has done and need not do again in its life. */
export type Progress = {
  followed: Followed;
  /** Takes and segments that the server knows of, takes that it has ended. */
  told: Set<string>;
  /** Ends of takes that were cut off. */
  ends: Map<string, TakeEnd>;
  arrived: { id: TakeId; cutOff: boolean; durationUs: number }[];
};

export type Environment = {
  server: ServerCalls;
  /** Whether a take is being recorded at this moment. */
  isLive: (name: string) => Promise<boolean>;
  /** Lists media whose lines were torn (`recover-journal.ts`, which brings a demuxer: loaded when it is needed). */
  listAgain: (folder: FileSystemDirectoryHandle, journal: Journal) => Promise<Journal>;
  remove: typeof removeEntry;
};

/** Does something on the server once in this uploader's life; another may do it again, all of it is idempotent. */
async function once({ told }: Progress, key: string, work: () => Promise<unknown>): Promise<void> {
  if (told.has(key)) return;
  await work();
  told.add(key);
}

const UNREADABLE: Record<'newer' | 'damaged', Problem> = {
  newer: {
    code: 'journal-newer',
    message: 'A newer version of the studio recorded this.',
    hint: 'Reload the page; if that does not help, update the studio.',
  },
  damaged: {
    code: 'journal-damaged',
    message: 'The description of this recording is damaged; its media is there.',
    hint: 'Recover it into a new lesson, or save its files.',
  },
};

/**
 * One turn of one take: sends as much of it as fits into the turn. What has arrived whole is removed here; nothing else is, ever.
 * @returns what is still here of it; null when nothing is
 * @throws {ProblemError} why it could not be sent
 */
export async function bringTake(
  entry: JournalEntry,
  progress: Progress,
  environment: Environment,
  untilMs: number,
): Promise<WaitingRecording | null> {
  const { server, remove } = environment;
  const live = await environment.isLive(entry.name);
  const read = await readJournal(entry);
  if (await isDiscarded(entry.folder)) {
    if (live) return null;
    await server.discard(entry.name as TakeId);
    await remove(entry);
    return null;
  }
  if (read.state === 'empty') {
    // A live one is just being begun. One that never had any media has nothing to lose.
    if (!live && (await mediaBytes(entry.folder)) === 0) await remove(entry);
    return null;
  }
  if (read.state === 'unreadable') throw new ProblemError(UNREADABLE[read.why]);
  let { journal } = read;
  if (!live && journal.unlisted.length > 0) journal = await environment.listAgain(entry.folder, journal);
  const waiting = await sendTake(entry, journal, live, progress, environment, untilMs);
  if (live || waiting.open > 0) return waiting.news;
  await endTake(entry, journal, waiting.absent, progress, environment);
  // What could not be recognized stays, and is shown.
  if (journal.unlisted.length > 0) throw new ProblemError(UNREADABLE.damaged);
  if ((await mediaBytes(entry.folder)) === 0) await remove(entry);
  return null;
}

async function sendTake(
  { folder, key, version }: JournalEntry,
  journal: Journal,
  live: boolean,
  progress: Progress,
  { server }: Environment,
  untilMs: number,
) {
  const { id } = journal.head;
  await once(progress, `${key} ${journal.head.lessonId}`, () => server.announceTake(journal.head));
  let [localBytes, sentBytes, open] = [0, 0, 0];
  const absent: string[] = [];
  // All at once: most of the time of small parts is waiting for an answer.
  await settled(
    journal.segments.map(async (segment) => {
      await once(progress, segment.id, () => server.announceSegment(id, segment));
      const whole = journal.closed.has(segment.id) || !live;
      const follow = (part: SegmentPart) =>
        followPart(progress.followed, server, {
          folder,
          take: id,
          segment: segment.id,
          part,
          whole,
          untilMs,
        });
      const parts = await allSettled(SegmentPart.options.map(follow));
      for (const { here, there } of parts) {
        localBytes += here ?? 0;
        sentBytes += there;
      }
      const isHere = (part: SegmentPart) => isFile(folder, partName(segment.id, part));
      const [media, index] = await Promise.all([isHere('media'), isHere('index')]);
      if (media || index) open++;
      if (live) return;
      const never = parts.every(({ here }) => here === null);
      if (never) absent.push(segment.id);
      else if (parts[SegmentPart.options.indexOf('index')]?.here === null)
        await followMissingIndex(progress.followed, server, id, segment.id);
    }),
  );
  const { startedAt } = journal.head;
  const news: WaitingRecording = {
    ...{ key, version, id, live, localBytes, sentBytes, startedAt },
    problem: null,
  };
  return { news, open, absent };
}

/** Everything has arrived: the take is ended on the server. */
async function endTake(
  { folder, key }: JournalEntry,
  journal: Journal,
  absent: readonly string[],
  progress: Progress,
  { server }: Environment,
): Promise<void> {
  const { id } = journal.head;
  const end = journal.end ?? progress.ends.get(key) ?? (await cutOffEnd(folder, key, journal, progress));
  const segments = journal.segments.map((segment) => segment.id);
  await once(progress, `${key} ended ${segments.length}`, () =>
    server.end(id, { ...end, segments, absent: segments.filter((each) => absent.includes(each)) }),
  );
  if (!progress.arrived.some((take) => take.id === id))
    progress.arrived.push({ id, cutOff: end.cutOff, durationUs: end.durationUs });
}

/** A take that was cut off gets its end while the packet indexes that tell it are still here. */
export async function cutOffEnd(
  folder: FileSystemDirectoryHandle,
  key: string,
  journal: Journal,
  { ends }: Progress,
): Promise<TakeEnd> {
  const known = ends.get(key);
  if (known) return known;
  const end = await endOfCutOff(folder, journal);
  ends.set(key, end);
  // A full storage accepts it later, when the first segments have gone.
  await writeDocument(folder, 'end.json', end).catch(() => undefined);
  return end;
}

const isFile = (folder: FileSystemDirectoryHandle, name: string): Promise<boolean> =>
  folder.getFileHandle(name).then(
    () => true,
    () => false,
  );

/** Waits for all, also when one fails: nothing of a turn may still be at work in the next. @throws the first failure */
async function settled(all: Promise<unknown>[]): Promise<void> {
  await allSettled(all);
}

async function allSettled<T>(all: Promise<T>[]): Promise<T[]> {
  return (await Promise.allSettled(all)).map((outcome) => {
    if (outcome.status === 'rejected') throw outcome.reason;
    return outcome.value;
  });
}

/** Puts a take that lost its lesson into another one. */
export async function moveToLesson({ folder }: JournalEntry, server: ServerCalls): Promise<void> {
  const read = await readJournal({ folder });
  if (read.state !== 'readable') return;
  await writeHead(folder, { ...read.journal.head, lessonId: await server.makeLesson('Recovered recording') });
}

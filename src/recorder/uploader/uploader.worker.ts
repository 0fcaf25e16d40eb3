/**
 * Follows the journals and sends them to the server: while a take is recorded, after it, and after a crash. A segment's files are removed
 * here only when the server has confirmed their size and hash. One worker of all tabs does it at a time.
 */
import { TakeId } from '@/core/base/ids';
import { type Problem, ProblemError, problemOf } from '@/core/base/problem';
import { nextTurns, OTHER_TURN_MS, retryDelayMs, type WaitingTake } from '@/core/recording/upload-turns';
import {
  JOURNAL_VERSION,
  type JournalEntry,
  journalEntries,
  removeEntry,
  takeLock,
  uploaderLock,
} from '../journal';
import { mediaFiles, readJournal } from '../read-journal';
import { bringTake, cutOffEnd, type Environment, moveToLesson, type Progress } from './bring';
import { nothingFollowed } from './follow';
import { ToUploader, type UploadNews, type WaitingRecording } from './messages';
import { openRest } from './rest';
import { SERVER } from './server-calls';

const ROUND_MS = 500;

const progress: Progress = { followed: nothingFollowed(), told: new Set(), ends: new Map(), arrived: [] };
const environment: Environment = {
  server: SERVER,
  isLive: async (name) => {
    const { held } = await navigator.locks.query();
    return held?.some((lock) => lock.name === takeLock(name)) ?? false;
  },
  listAgain: async (folder, journal) => (await import('../recover-journal')).listAgain(folder, journal),
  remove: removeEntry,
};

/** What is known of each journal between its turns. */
type Turn = {
  busy: boolean;
  /** Somebody hurried while it was busy: what it did not find yet is there now. */
  hurried: boolean;
  failures: number;
  retryAtMs: number;
  turnAtMs: number;
  startedAt: string;
};
const turns = new Map<string, Turn>();
const news = new Map<string, WaitingRecording>();
let failed: Problem | null = null;

const turnOf = (key: string): Turn => {
  const known = turns.get(key) ?? {
    ...{ busy: false, hurried: false, failures: 0, retryAtMs: 0, turnAtMs: 0, startedAt: '' },
  };
  turns.set(key, known);
  return known;
};

/** When a recording began, also where its description is damaged. */
async function startOf(entry: JournalEntry): Promise<string> {
  const read = await readJournal(entry);
  if (read.state === 'readable') return read.journal.head.startedAt;
  const files = [...(await mediaFiles(entry.folder)).values()];
  const at = Math.max(0, ...files.map(({ lastModified }) => lastModified));
  return at === 0 ? '' : new Date(at).toISOString();
}

/** What is here of a take that could not be sent. */
async function stuckRecording(entry: JournalEntry, problem: Problem): Promise<WaitingRecording> {
  const id = TakeId.safeParse(entry.name);
  const files = [...(await mediaFiles(entry.folder)).values()];
  return {
    key: entry.key,
    version: entry.version,
    id: id.success ? id.data : null,
    live: await environment.isLive(entry.name),
    localBytes: files.reduce((sum, { size }) => sum + size, 0),
    sentBytes: 0,
    startedAt: turnOf(entry.key).startedAt,
    problem,
  };
}

async function takeTurn(entry: JournalEntry, isNewest: boolean): Promise<void> {
  const turn = turnOf(entry.key);
  Object.assign(turn, { busy: true, turnAtMs: Date.now() });
  try {
    const untilMs = isNewest ? Number.POSITIVE_INFINITY : performance.now() + OTHER_TURN_MS;
    await rememberEnd(entry);
    const left = await bringTake(entry, progress, environment, untilMs);
    if (left) news.set(entry.key, left);
    else news.delete(entry.key);
    Object.assign(turn, { failures: 0, retryAtMs: 0 });
  } catch (error) {
    turn.failures++;
    turn.retryAtMs = Date.now() + retryDelayMs(turn.failures);
    const stuck = await stuckRecording(entry, problemOf(error)).catch(() => null);
    if (stuck) news.set(entry.key, stuck);
  } finally {
    const { hurried } = turn;
    Object.assign(turn, { busy: false, hurried: false });
    if (hurried) wake();
    await tell();
  }
}

/** The end of a take that was cut off is read from files that go away one after the other: before the first of them does. */
async function rememberEnd(entry: JournalEntry): Promise<void> {
  if (progress.ends.has(entry.key) || (await environment.isLive(entry.name))) return;
  const read = await readJournal(entry);
  if (read.state === 'readable' && !read.journal.end)
    await cutOffEnd(entry.folder, entry.key, read.journal, progress);
}

/** Held once it was free: then no page of the release before handles its journals any more. */
let ownsFirst = false;
const claimFirst = () =>
  new Promise<void>((done) => {
    if (ownsFirst) return done();
    void navigator.locks.request(uploaderLock(1), { ifAvailable: true }, (lock) => {
      ownsFirst = lock !== null;
      done();
      return lock ? new Promise<never>(() => undefined) : undefined;
    });
  });

async function isNewerTabOpen(): Promise<boolean> {
  const { held = [], pending = [] } = await navigator.locks.query();
  return [...held, ...pending].some(({ name = '' }) => {
    const version = Number(/^uploader:(\d+)$/.exec(name)?.[1] ?? 0);
    return version > JOURNAL_VERSION;
  });
}

async function tell(): Promise<void> {
  const takes = [...news.values()].sort((a, b) => b.startedAt.localeCompare(a.startedAt));
  const problem = takes.find((take) => take.problem)?.problem ?? null;
  const message: UploadNews = {
    takes,
    arrived: progress.arrived,
    problem,
    olderTab: !ownsFirst,
    newerTab: await isNewerTabOpen(),
    failed,
  };
  postMessage(message);
}

/** Those that this worker may handle. Journals of later versions are shown, and recovered when their owner asks for it. */
const ours = ({ version }: JournalEntry) => version !== 1 || ownsFirst;

async function round(): Promise<void> {
  await claimFirst();
  const entries = (await journalEntries()).filter(ours);
  for (const key of [...news.keys()]) if (!entries.some((entry) => entry.key === key)) news.delete(key);
  const waiting = await Promise.all(
    entries.map(async (entry): Promise<WaitingTake> => {
      const turn = turnOf(entry.key);
      if (turn.startedAt === '') turn.startedAt = await startOf(entry).catch(() => '');
      return { key: entry.key, ...turn };
    }),
  );
  const newest = [...waiting].sort((a, b) => b.startedAt.localeCompare(a.startedAt))[0]?.key;
  for (const key of nextTurns(waiting, Date.now())) {
    const entry = entries.find((each) => each.key === key);
    // Not waited for: one that hangs must not keep the next round back.
    if (entry) void takeTurn(entry, key === newest);
  }
  await tell();
}

const { rest, wake } = openRest();

// Held for the life of this worker; another tab's uploader waits for it and takes over when this one is gone.
void navigator.locks.request(uploaderLock(JOURNAL_VERSION), async () => {
  for (;;) {
    await round().catch((error) => console.error('The journals could not be looked at.', error));
    await rest(ROUND_MS);
  }
});

async function entryOf(key: string): Promise<JournalEntry> {
  const entry = (await journalEntries()).find((each) => each.key === key);
  if (entry) return entry;
  throw new ProblemError({ code: 'not-found', message: 'This recording is not in the browser any more.' });
}

async function carryOut(message: ToUploader): Promise<void> {
  if (message.type === 'now') return;
  const entry = await entryOf(message.key);
  if (message.type === 'adopt') await moveToLesson(entry, SERVER);
  else if (message.type === 'delete') {
    await removeEntry(entry);
    news.delete(entry.key);
  } else {
    const { recoverJournal } = await import('../recover-journal');
    const lesson = await SERVER.makeLesson('Recovered recording');
    if ((await recoverJournal(entry, lesson)) === 0)
      throw new ProblemError({
        code: 'bad-media',
        message: 'None of its files is media that can be read.',
        hint: 'Save the files: another program may read them.',
      });
  }
}

// A take was just ended: somebody wants to watch it. Or the network is back, or its owner decided about a recording.
self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = ToUploader.parse(data);
  void carryOut(message)
    .then(
      () => {
        failed = null;
      },
      (error) => {
        failed = problemOf(error);
      },
    )
    .finally(() => {
      for (const turn of turns.values()) Object.assign(turn, { retryAtMs: 0, hurried: turn.busy });
      wake();
    });
};

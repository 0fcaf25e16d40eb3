import fc from 'fast-check';
import { expect, test } from 'vitest';
import { newLessonId, newSegmentId, newTakeId } from '@/core/base/ids';
import { problemOf } from '@/core/base/problem';
import type { SegmentHead, TakeEnd, TakeHead } from '@/core/recording/take';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { memoryServer } from '../../../tests/support/memory-server';
import { memoryFolder } from '../../../tests/support/memory-storage';
import type { JournalEntry } from '../journal';
import { bringTake, type Environment, type Progress } from './bring';
import { nothingFollowed } from './follow';

const random = (length: number): Uint8Array<ArrayBuffer> =>
  Uint8Array.from({ length }, () => Math.floor(Math.random() * 256));

type Made = {
  take: TakeHead;
  segments: SegmentHead[];
  files: Record<string, Uint8Array<ArrayBuffer> | string>;
};

/** A journal of a take that was stopped. @param sizes bytes of each segment's media */
function journal(sizes: readonly number[]): Made {
  const take: TakeHead = {
    id: newTakeId(),
    lessonId: newLessonId(),
    rig: PRACTICE_RIG,
    startedAt: new Date().toISOString(),
    browser: 'test',
    machine: { cores: 2, memoryGb: null },
  };
  const segments = sizes.map(
    (_, index): SegmentHead => ({
      id: newSegmentId(),
      track: 'voice',
      index,
      startUs: index * 1_000_000,
      configuration: { type: 'audio', codec: 'opus', sampleRate: 48_000, channels: 1, bitrateKbps: 64 },
      encoderDelayUs: 6500,
      offsetUs: 0,
      offsetHow: 'declared',
      continues: false,
    }),
  );
  const end: TakeEnd = {
    durationUs: 1_000_000,
    pauses: [],
    ledger: {},
    segments: segments.map(({ id }) => id),
    absent: [],
    cutOff: false,
  };
  const lines = segments.flatMap(({ id }, i) => [
    JSON.stringify({ open: segments[i] }),
    JSON.stringify({ closed: id, media: sizes[i], index: 10 }),
  ]);
  const files: Made['files'] = {
    'take.json': JSON.stringify({ v: 2, ...take }),
    'segments.jsonl': `${lines.join('\n')}\n`,
    'end.json': JSON.stringify(end),
  };
  segments.forEach(({ id }, i) => {
    files[`${id}.media`] = random(sizes[i] ?? 0);
    files[`${id}.index`] = `0 ${sizes[i]} 1\n`;
  });
  return { take, segments, files };
}

const newProgress = (): Progress => ({
  followed: nothingFollowed(),
  told: new Set(),
  ends: new Map(),
  arrived: [],
});

function open(made: Made, fails?: () => 'before' | 'after' | null) {
  const storage = memoryFolder(made.files);
  const remote = memoryServer(fails);
  const entry: JournalEntry = {
    key: `journal-2/${made.take.id}`,
    version: 2,
    name: made.take.id,
    folder: storage.folder,
  };
  let gone = false;
  const environment: Environment = {
    server: remote.server,
    isLive: async () => false,
    listAgain: async (_, read) => read,
    remove: async () => {
      gone = true;
    },
  };
  return { storage, remote, entry, environment, isGone: () => gone };
}

const forever = Number.POSITIVE_INFINITY;

test('each byte is read once, sent once, and removed only when the server has confirmed it', async () => {
  const made = journal([300_000, 0, 5]);
  const before = { ...made.files };
  const { storage, remote, entry, environment, isGone } = open(made);
  const media = made.segments.map(({ id }) => storage.files.get(`${id}.media`));
  expect(await bringTake(entry, newProgress(), environment, forever)).toBeNull();
  for (const [i, { id }] of made.segments.entries()) {
    expect(remote.kept.get(`${id}.media`)).toEqual(before[`${id}.media`]);
    expect(media[i]?.readBytes).toBe(media[i]?.bytes.length);
  }
  expect(remote.ended).toHaveLength(1);
  expect(isGone()).toBe(true);
  expect(storage.removed).toHaveLength(2 * made.segments.length);
});

test('however the line breaks, the same bytes arrive in the end, and nothing is removed that has not', async () => {
  const plan = fc.array(fc.constantFrom('before', 'after', null, null), { maxLength: 60 });
  await fc.assert(
    fc.asyncProperty(fc.array(fc.nat(3000), { minLength: 1, maxLength: 3 }), plan, async (sizes, breaks) => {
      const made = journal(sizes);
      const before = { ...made.files };
      let at = 0;
      const { storage, remote, entry, environment, isGone } = open(made, () => breaks[at++] ?? null);
      let progress = newProgress();
      for (let turn = 0; turn < 100 && !isGone(); turn++) {
        await bringTake(entry, progress, environment, forever).catch(() => undefined);
        for (const name of storage.removed) expect(remote.kept.get(name)?.length).toBeDefined();
        // Now and then the page is opened again, and knows nothing of what was done.
        if (turn % 3 === 2) progress = newProgress();
      }
      expect(isGone()).toBe(true);
      for (const { id } of made.segments)
        expect(remote.kept.get(`${id}.media`)).toEqual(before[`${id}.media`]);
    }),
    { numRuns: 60 },
  );
});

test('a server that has more than the browser, as after a power cut, keeps what it has', async () => {
  const made = journal([1000]);
  const [segment] = made.segments;
  const name = `${segment?.id}.media`;
  const { remote, entry, environment, isGone } = open(made);
  const longer = new Uint8Array([...(made.files[name] as Uint8Array), 1, 2, 3]);
  remote.uploads.set(name, longer);
  await bringTake(entry, newProgress(), environment, forever);
  expect(remote.kept.get(name)).toEqual(longer);
  expect(isGone()).toBe(true);
});

test('bytes that differ on the server are sent again from the start', async () => {
  const made = journal([1000]);
  const [segment] = made.segments;
  const name = `${segment?.id}.media`;
  const { remote, entry, environment, isGone } = open(made);
  remote.uploads.set(name, random(700));
  const progress = newProgress();
  await expect(bringTake(entry, progress, environment, forever)).rejects.toThrow('Other bytes.');
  expect(isGone()).toBe(false);
  await bringTake(entry, progress, environment, forever);
  expect(remote.kept.get(name)).toEqual(made.files[name]);
  expect(isGone()).toBe(true);
});

test('a storage that gives nothing ends the turn with a problem, and loses nothing', async () => {
  const made = journal([1000]);
  const { storage, entry, environment, isGone } = open(made);
  const file = storage.files.get(`${made.segments[0]?.id}.media`);
  const { folder } = storage;
  const own = folder.getFileHandle.bind(folder);
  folder.getFileHandle = async (name, options) => {
    const handle = await own(name, options);
    if (!name.endsWith('.media')) return handle;
    const silent = { getSize: () => file?.bytes.length ?? 0, read: () => 0, close: () => undefined };
    return Object.assign(handle, { createSyncAccessHandle: async () => silent });
  };
  const failure = await bringTake(entry, newProgress(), environment, forever).catch(problemOf);
  expect(failure).toMatchObject({ code: 'file-shrank' });
  expect(isGone()).toBe(false);
  expect(storage.files.has(`${made.segments[0]?.id}.media`)).toBe(true);
});

test('a segment without a file, and an index without one, do not hold up the rest', async () => {
  const made = journal([400, 500]);
  const [first, second] = made.segments;
  delete made.files[`${first?.id}.media`];
  delete made.files[`${first?.id}.index`];
  delete made.files[`${second?.id}.index`];
  const { remote, entry, environment, isGone } = open(made);
  await bringTake(entry, newProgress(), environment, forever);
  expect(remote.ended[0]?.end.absent).toEqual([first?.id]);
  expect(remote.kept.has(`${second?.id}.media`)).toBe(true);
  expect(isGone()).toBe(true);
});

test('what cannot be read is never removed', async () => {
  const damaged = journal([400]);
  damaged.files['take.json'] = '{"v":2,"id":"';
  const newer = journal([400]);
  newer.files['take.json'] = JSON.stringify({ v: 3, ...newer.take });
  for (const [made, code] of [
    [damaged, 'journal-damaged'],
    [newer, 'journal-newer'],
  ] as const) {
    const { storage, entry, environment, isGone } = open(made);
    const failure = await bringTake(entry, newProgress(), environment, forever).catch(problemOf);
    expect(failure).toMatchObject({ code });
    expect([isGone(), storage.removed]).toEqual([false, []]);
  }
  // A line that was torn: its media stays, and the take is said to be damaged when the rest has arrived.
  const torn = journal([400, 500]);
  torn.files['segments.jsonl'] = String(torn.files['segments.jsonl']).replace('{"open"', '{"op');
  const { storage, remote, entry, environment, isGone } = open(torn);
  const failure = await bringTake(entry, newProgress(), environment, forever).catch(problemOf);
  expect(failure).toMatchObject({ code: 'journal-damaged' });
  expect(remote.kept.has(`${torn.segments[1]?.id}.media`)).toBe(true);
  expect(isGone()).toBe(false);
  expect(storage.files.has(`${torn.segments[0]?.id}.media`)).toBe(true);
});

test('one that was begun and never had any media is removed; one that is live is left alone', async () => {
  const made = journal([0]);
  made.files['take.json'] = '';
  const { entry, environment, isGone } = open(made);
  await bringTake(entry, newProgress(), { ...environment, isLive: async () => true }, forever);
  expect(isGone()).toBe(false);
  await bringTake(entry, newProgress(), environment, forever);
  expect(isGone()).toBe(true);
});

// What is in a browser's own storage arrives, whatever became of its files, and is never removed before it has.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import type { BrowserContext, Page } from '@playwright/test';
import type { TakeId } from '@/core/base/ids';
import { uploadName } from '@/core/recording/upload';
import { launch } from '../support/browser';
import {
  fileOf,
  freshJournal,
  type PlantedTake,
  plantJournal,
  readJournals,
  rootOf,
  textOf,
} from '../support/journals';
import { differing, keptTracks } from '../support/kept';
import { dataDir, rows } from '../support/processes';
import { expect, takeFolder } from '../support/studio';
import { AT_LENGTH, test } from '../support/test';

const TITLES = ['App sound', 'Camera', 'Screen', 'Voice'];
const ARRIVED_MS = 60_000;

const base = () => process.env.BASE_URL ?? '';

async function newLesson(title = 'Journals'): Promise<string> {
  const headers = { 'content-type': 'application/json' };
  const answer = await fetch(`${base()}/api/lessons`, {
    method: 'POST',
    headers,
    body: JSON.stringify({ title }),
  });
  return (await answer.json()).id;
}

const takeState = async (take: string): Promise<string | undefined> =>
  (await rows<{ state: string }>('select state from take where id = $1', [take]))[0]?.state;
const isReady = (take: string) => expect.poll(() => takeState(take), { timeout: ARRIVED_MS }).toBe('ready');

/** A page of an origin's storage that no uploader looks at yet. */
const withStorage = async (context: BrowserContext): Promise<Page> => {
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto('/icon.svg');
  return page;
};

const folders = async (page: Page) =>
  new Set(Object.keys(await readJournals(page)).map((path) => path.split('/').slice(0, 2).join('/')));

/** The take is on the server whole, and nothing of it is left in the browser. */
async function expectArrived(page: Page, { take }: Pick<PlantedTake, 'take'>): Promise<void> {
  await isReady(take);
  const tracks = await keptTracks(takeFolder(take));
  expect(tracks.map(({ title }) => title).sort()).toEqual(TITLES);
  expect(await differing(take, takeFolder(take))).toEqual([]);
  await expect
    .poll(async () => [...(await folders(page))].filter((path) => path.endsWith(take)), {
      timeout: ARRIVED_MS,
    })
    .toEqual([]);
}

const bytesOf = (base64 = '') => Buffer.from(base64, 'base64');

const send = (method: string, path: string, body: unknown, headers: Record<string, string> = {}) =>
  fetch(`${base()}${path}`, {
    method,
    headers: { 'content-type': 'application/json', ...headers },
    body: body instanceof Uint8Array ? new Uint8Array(body) : JSON.stringify(body),
  });

/** Sends parts of a planted take as its browser would have, before it went. @param bytes what of each file */
async function sendBefore(
  planted: PlantedTake,
  bytes: (name: string, whole: Buffer) => Buffer,
): Promise<void> {
  const tus = { 'Tus-Resumable': '1.0.0' };
  const head = JSON.parse(textOf(planted.files['take.json']));
  expect((await send('PUT', `/api/takes/${planted.take}`, head)).status).toBe(200);
  for (const segment of planted.segments) {
    const announced = await send('PUT', `/api/takes/${planted.take}/segments/${segment.id}`, segment);
    expect(announced.status).toBe(200);
    for (const part of ['media', 'index'] as const) {
      const name = uploadName(segment.id, part);
      const part64 = planted.files[name];
      if (part64 === undefined) continue;
      await fetch(`${base()}/api/uploads`, {
        method: 'POST',
        headers: { ...tus, 'Upload-Defer-Length': '1', 'Upload-Metadata': `name ${btoa(name)}` },
      });
      const sent = bytes(name, bytesOf(part64));
      if (sent.length === 0) continue;
      const answer = await send('PATCH', `/api/uploads/${name}`, sent, {
        ...tus,
        'Upload-Offset': '0',
        'content-type': 'application/offset+octet-stream',
      });
      expect(answer.status).toBe(204);
    }
  }
}

test('journals of this version and of the one before arrive whole', async ({ profile }) => {
  const lesson = await newLesson();
  const context = await launch(profile);
  const page = await withStorage(context);
  const planted = [freshJournal(lesson, 1), freshJournal(lesson, 2)];
  await plantJournal(page, `${rootOf(1)}/${planted[0]?.take}`, planted[0]?.files ?? {});
  await plantJournal(page, `${rootOf(2)}/${planted[1]?.take}`, planted[1]?.files ?? {});
  await page.goto('/');
  for (const each of planted) await expectArrived(page, each);
  await context.close();
});

test('journals that are torn in the middle of a line arrive with every track: the files say what the line said', async ({
  profile,
}) => {
  const lesson = await newLesson();
  const context = await launch(profile);
  const page = await withStorage(context);
  const planted = freshJournal(lesson);
  const lines = textOf(planted.files['segments.jsonl']).split('\n');
  // The line that opens the first segment with media is cut off, the rest is as it was.
  const torn = lines.findIndex((line) => line.includes('"open"') && line.includes('"video"'));
  lines[torn] = (lines[torn] ?? '').slice(0, 60);
  planted.files['segments.jsonl'] = fileOf(lines.join('\n'));
  await plantJournal(page, `${rootOf(2)}/${planted.take}`, planted.files);
  await page.goto('/');
  await expectArrived(page, planted);
  await context.close();
});

test('unreadable and future journals are never removed: they are listed, recovered, saved as files, or deleted by hand', async ({
  profile,
}) => {
  const lesson = await newLesson();
  const context = await launch(profile);
  const page = await withStorage(context);
  const [empty, torn, future] = [freshJournal(lesson), freshJournal(lesson), freshJournal(lesson, 3)];
  empty.files['take.json'] = '';
  torn.files['take.json'] = fileOf(textOf(torn.files['take.json']).slice(0, 200));
  await plantJournal(page, `${rootOf(2)}/${empty.take}`, empty.files);
  await plantJournal(page, `${rootOf(2)}/${torn.take}`, torn.files);
  await plantJournal(page, `${rootOf(3)}/${future.take}`, future.files);
  const before = await readJournals(page);
  await page.goto('/');
  await expect(page.getByText('3 recordings are only in this browser.')).toBeVisible({ timeout: 20_000 });
  const table = page.getByRole('region', { name: 'Only in this browser' });
  await expect(table.getByRole('row')).toHaveCount(4);
  // Many rounds of the uploader later every byte of them is where it was.
  await page.waitForTimeout(6000);
  expect(await readJournals(page)).toEqual(before);
  await expect(table.getByText('A newer version of the studio recorded this.')).toBeVisible();

  // Saved: the files come out as they are.
  const saved: Promise<string>[] = [];
  page.on('download', (download) => {
    saved.push(download.path().then((path) => createHash('sha256').update(readFileSync(path)).digest('hex')));
  });
  const futureRow = table.getByRole('row').filter({ hasText: 'A newer version' });
  await futureRow.getByRole('button', { name: 'Save files' }).click();
  const media = Object.entries(future.files).filter(([, file]) => bytesOf(file).length > 0);
  await expect.poll(() => saved.length, { timeout: 20_000 }).toBeGreaterThan(0);
  await page.waitForTimeout(1000);
  const hashes = media.map(([, file]) => createHash('sha256').update(bytesOf(file)).digest('hex'));
  for (const hash of await Promise.all(saved)) expect(hashes).toContain(hash);

  // Deleted by hand, after a question.
  await futureRow.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('Delete this recording from the browser?')).toBeVisible();
  await page.getByRole('tooltip').getByRole('button', { name: 'Delete' }).click();
  await expect(table.getByRole('row')).toHaveCount(3);

  // Recovered: from the media alone, into a new lesson, one after the other.
  for (const left of [2, 1]) {
    await table.getByRole('button', { name: 'Recover' }).first().click();
    await expect(table.getByRole('button', { name: 'Recover' })).toHaveCount(left - 1, { timeout: 30_000 });
  }
  for (const { take, segments } of [empty, torn]) {
    await isReady(take);
    const kept = readdirSync(takeFolder(take)).filter((name) => name.endsWith('.media'));
    // An empty events file is nothing to recover; whatever had a byte is there.
    expect(kept).toHaveLength(segments.filter(({ track }) => track !== 'events').length);
    const tracks = await keptTracks(takeFolder(take));
    expect(tracks.map(({ title }) => title.replace(/ \d$/, ''))).toEqual(
      expect.arrayContaining(['Screen', 'Voice']),
    );
  }
  await context.close();
});

test('a browser file that is shorter than what the server has, as after a power cut, does not make the take shorter', async ({
  profile,
}) => {
  const planted = freshJournal(await newLesson());
  const context = await launch(profile);
  const page = await withStorage(context);
  await sendBefore(planted, (_, whole) => whole);
  const whole = { ...planted.files };
  for (const { id } of planted.segments)
    for (const part of ['media', 'index'] as const) {
      const name = uploadName(id, part);
      const bytes = bytesOf(planted.files[name]);
      planted.files[name] = bytes.subarray(0, Math.floor(bytes.length * 0.6)).toString('base64');
    }
  await plantJournal(page, `${rootOf(2)}/${planted.take}`, planted.files);
  await page.goto('/');
  await expectArrived(page, planted);
  for (const { id } of planted.segments)
    expect(statSync(join(takeFolder(planted.take), `${id}.media`)).size).toBe(
      bytesOf(whole[`${id}.media`]).length,
    );
  await context.close();
});

test('bytes on the server that differ from the browser’s are moved aside, and everything is sent again', async ({
  profile,
}) => {
  const planted = freshJournal(await newLesson());
  const context = await launch(profile);
  const page = await withStorage(context);
  const [segment] = planted.segments.filter(({ track }) => track === 'screen');
  await sendBefore(planted, (name, whole) => {
    if (name !== `${segment?.id}.media`) return whole;
    const other = Buffer.from(whole);
    other[Math.floor(other.length / 2)] = (other[Math.floor(other.length / 2)] ?? 0) ^ 0xff;
    return other;
  });
  await plantJournal(page, `${rootOf(2)}/${planted.take}`, planted.files);
  await page.goto('/');
  await expectArrived(page, planted);
  const trash = join(dataDir(), 'media', 'trash');
  const aside = readdirSync(trash).filter((name) => existsSync(join(trash, name, `${segment?.id}.media`)));
  expect(aside).toHaveLength(1);
  await context.close();
});

test('a segment that was announced but has no file is left out of the end; everything else is finished', {
  tag: AT_LENGTH,
}, async ({ profile }) => {
  const planted = freshJournal(await newLesson());
  const context = await launch(profile);
  const page = await withStorage(context);
  const [voice] = planted.segments.filter(({ track }) => track === 'voice');
  const ghost = { ...voice, id: 'G'.repeat(21) + planted.take[0], index: 1, startUs: 2_000_000 };
  planted.files['segments.jsonl'] = fileOf(
    `${textOf(planted.files['segments.jsonl'])}${JSON.stringify({ open: ghost })}\n`,
  );
  const end = JSON.parse(textOf(planted.files['end.json']));
  planted.files['end.json'] = fileOf(JSON.stringify({ ...end, segments: [...end.segments, ghost.id] }));
  // And an index that is lost does not hold up its media.
  delete planted.files[`${voice?.id}.index`];
  await plantJournal(page, `${rootOf(2)}/${planted.take}`, planted.files);
  await page.goto('/');
  await expectArrived(page, planted);
  await context.close();
});

test('a take that is stuck does not hold up a newer one', { tag: AT_LENGTH }, async ({ profile }) => {
  const lesson = await newLesson();
  const context = await launch(profile);
  const page = await withStorage(context);
  const old = freshJournal(lesson, 2, new Date(Date.now() - 3_600_000));
  const refused = freshJournal('A'.repeat(22), 2, new Date(Date.now() - 1_800_000));
  const newest = freshJournal(lesson);
  for (const each of [old, refused, newest])
    await plantJournal(page, `${rootOf(2)}/${each.take}`, each.files);
  // The old take's uploads hang: the line takes them and never answers.
  const hanging = new Set(old.segments.map(({ id }) => id as string));
  await context.route('**/api/uploads/*', async (route) => {
    const id = route.request().url().split('/').pop()?.split('.')[0] ?? '';
    if (!hanging.has(id)) await route.continue();
  });
  const from = Date.now();
  await page.goto('/');
  await expectArrived(page, newest);
  // Each hanging request is given up after half a minute; the newest take was there long before.
  expect(Date.now() - from).toBeLessThan(28_000);
  expect(await takeState(old.take)).toBe('recording');
  await expect(page.getByRole('button', { name: 'Save in a new lesson' })).toBeVisible({ timeout: 20_000 });
  await context.close();
});

test('an old page of the release before, which holds its lock, keeps what it recorded; the new page says so', {
  tag: AT_LENGTH,
}, async ({ profile }) => {
  const lesson = await newLesson();
  const context = await launch(profile);
  const page = await withStorage(context);
  const oldPage = await context.newPage();
  await oldPage.goto('/icon.svg');
  await oldPage.evaluate(() => {
    void navigator.locks.request('uploader', () => new Promise(() => undefined));
  });
  const [own, other] = [freshJournal(lesson, 2), freshJournal(lesson, 1)];
  await plantJournal(page, `${rootOf(2)}/${own.take}`, own.files);
  await plantJournal(page, `${rootOf(1)}/${other.take}`, other.files);
  await page.goto('/');
  await expectArrived(page, own);
  await expect(page.getByText('An older version of the studio is open in another tab.')).toBeVisible();
  expect([...(await folders(page))]).toContain(`${rootOf(1)}/${other.take}`);
  expect(await takeState(other.take)).toBeUndefined();
  await oldPage.close();
  await expectArrived(page, other);

  // A page of a later release is open: this one says that it is out of date.
  const newPage = await context.newPage();
  await newPage.goto('/icon.svg');
  await newPage.evaluate(() => {
    void navigator.locks.request('uploader:3', () => new Promise(() => undefined));
  });
  await expect(page.getByText('This page is older than the studio.')).toBeVisible({ timeout: 20_000 });
  await context.close();
});

/** Makes it look as if nothing had come from a take's browser for so long. */
async function silentFor(take: TakeId, planted: PlantedTake, hours: number): Promise<void> {
  const at = new Date(Date.now() - hours * 3_600_000);
  await rows('update take set started_at = $2, updated_at = $2 where id = $1', [take, at]);
  const uploads = join(dataDir(), 'media', 'uploads');
  mkdirSync(uploads, { recursive: true });
  for (const name of readdirSync(uploads))
    if (planted.segments.some(({ id }) => name.startsWith(id))) utimesSync(join(uploads, name), at, at);
}

test('a take whose browser stays away is finished with what has arrived; when the rest comes, it is put in', async ({
  profile,
}) => {
  const planted = freshJournal(await newLesson());
  const context = await launch(profile);
  const page = await withStorage(context);
  // Two thirds of every track, cut off in the middle of a block; of the camera nothing.
  const [camera] = planted.segments.filter(({ track }) => track === 'camera');
  await sendBefore(planted, (name, whole) =>
    name.startsWith(camera?.id ?? '-') ? Buffer.alloc(0) : whole.subarray(0, Math.floor(whole.length * 0.66)),
  );
  await page.goto(`/takes/${planted.take}`);
  await expect(page.getByText('The take is uploading from the browser.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Finish with what has arrived' })).toBeHidden();
  await silentFor(planted.take, planted, 2);
  await page.reload();
  await expect(page.getByText(/was last heard from 2 hours ago/)).toBeVisible();
  await page.getByRole('button', { name: 'Finish with what has arrived' }).click();
  await isReady(planted.take);
  await expect(page.getByText(/^Finished with what had arrived/)).toBeVisible({ timeout: 20_000 });
  const before = await keptTracks(takeFolder(planted.take));
  expect(before.map(({ title }) => title).sort()).toEqual(['App sound', 'Screen', 'Voice']);
  // A sweep in between leaves it all where it is.
  const sweep = await fetch(`${base()}/api/health`);
  expect(sweep.ok).toBe(true);

  await page.goto('/icon.svg');
  await plantJournal(page, `${rootOf(2)}/${planted.take}`, planted.files);
  await page.goto('/');
  await expect
    .poll(
      async () =>
        (await rows<{ partial: boolean }>('select partial from take where id = $1', [planted.take]))[0],
      {
        timeout: ARRIVED_MS,
      },
    )
    .toEqual({ partial: false });
  await expectArrived(page, planted);
  const after = await keptTracks(takeFolder(planted.take));
  for (const { title, packets } of before)
    expect(after.find((track) => track.title === title)?.packets).toBeGreaterThan(packets);
  await context.close();
});

test('after a week a take whose browser stays away is finished without asking', {
  tag: AT_LENGTH,
}, async () => {
  const planted = freshJournal(await newLesson());
  await sendBefore(planted, (_, whole) => whole.subarray(0, Math.floor(whole.length * 0.8)));
  await silentFor(planted.take, planted, 7 * 24 + 1);
  await expect.poll(() => takeState(planted.take), { timeout: 100_000 }).toBe('ready');
});

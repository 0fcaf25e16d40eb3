// Database and media folder are not those of each other, or of the release before: nothing is removed, everything can be listed again.
import { cpSync, existsSync, mkdirSync, readdirSync, renameSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import type { Page } from '@playwright/test';
import { newSegmentId, newTakeId } from '@/core/base/ids';
import { launch } from '../support/browser';
import { text } from '../support/card-film';
import { plantJournal, previousJournal } from '../support/journals';
import { keptTracks } from '../support/kept';
import { type OwnStudio, PREVIOUS_TAKE, withStudio } from '../support/own-studio';
import { expect } from '../support/studio';
import { AT_LENGTH, test } from '../support/test';

const script = (name: 'sweep' | 'adopt', { data }: OwnStudio, ...more: string[]) =>
  text('node', [`scripts/${name}.mjs`, '--data', data, ...more]);

/** Everything below a folder with its size. */
function tree(folder: string): string[] {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name).slice(folder.length))
    .sort();
}

const isReady = ({ rows }: OwnStudio, take: string) =>
  expect
    .poll(
      async () => (await rows<{ state: string }>('select state from take where id = $1', [take]))[0]?.state,
      {
        timeout: 60_000,
      },
    )
    .toBe('ready');

async function expectPlays(page: Page, url: string, take: string): Promise<void> {
  await page.goto(`${url}/takes/${take}`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible({ timeout: 30_000 });
}

test('with another database nothing is removed: the page says so, and adopting lists the takes again from their files', async ({
  profile,
}) => {
  await withStudio({ takes: true }, async (studio) => {
    const before = tree(studio.takes);
    // The workers swept when they started; by hand it is the same.
    expect(await script('sweep', studio)).toContain('Nothing was swept');
    expect(tree(studio.takes)).toEqual(before);
    const context = await launch(profile);
    const page = context.pages()[0] ?? (await context.newPage());
    await page.goto(studio.url);
    await expect(page.getByText('The media folder belongs to another database.')).toBeVisible();
    expect((await (await fetch(`${studio.url}/api/health`)).json()).checks.pairing.ok).toBe(false);

    expect(await script('adopt', studio, '--look')).toContain('1 take would be listed again.');
    expect(await script('adopt', studio)).toContain('recognized from its files');
    await isReady(studio, PREVIOUS_TAKE);
    const tracks = await keptTracks(join(studio.takes, PREVIOUS_TAKE));
    expect(tracks.map(({ title }) => title).sort()).toEqual(['App sound', 'Camera', 'Screen', 'Voice']);
    await page.reload();
    await expect(page.getByRole('heading', { name: 'Recovered recordings' })).toBeVisible();
    await expectPlays(page, studio.url, PREVIOUS_TAKE);
    expect(await script('sweep', studio)).toContain('0 stray files');
    for (const path of before) expect(existsSync(join(studio.takes, path)), path).toBe(true);

    // The folder now says what it is: a second loss of the database brings lesson and names back, too.
    await studio.rows(`update lesson set title = 'Prune the roses'`);
    await page.request.patch(`${studio.url}/api/takes/${PREVIOUS_TAKE}`, { data: { title: 'The good one' } });
    await studio.rows('truncate lesson, instance cascade');
    expect(await script('sweep', studio)).toContain('Nothing was swept');
    expect(await script('adopt', studio)).toContain('from take.json');
    await isReady(studio, PREVIOUS_TAKE);
    await page.goto(`${studio.url}/takes/${PREVIOUS_TAKE}`);
    await expect(page.getByRole('heading', { name: 'The good one' })).toBeVisible();
    await expect(page.getByRole('heading', { name: 'Prune the roses' })).toBeVisible();
    await context.close();
  });
});

test('a database or a media folder from a backup is recognized as older, and an empty one as not mounted', {
  tag: AT_LENGTH,
}, async () => {
  await withStudio({ takes: true, database: true }, async (studio) => {
    const before = tree(studio.takes);
    expect(await script('sweep', studio)).toContain('0 stray files');
    await studio.rows('update instance set sweeps = sweeps - 1');
    expect(await script('sweep', studio)).toContain('The database is older than the media folder');
    await studio.rows('update instance set sweeps = sweeps + 20');
    expect(await script('sweep', studio)).toContain('The media folder is older than the database');
    const media = join(studio.data, 'media');
    renameSync(media, `${media}-away`);
    mkdirSync(join(media, 'takes'), { recursive: true });
    expect(await script('adopt', studio)).toContain('Is its disk mounted?');
    renameSync(media, `${media}-empty`);
    renameSync(`${media}-away`, media);
    expect(tree(studio.takes)).toEqual(before);
    expect(await script('adopt', studio)).toContain('0 takes listed again.');
    expect(await script('sweep', studio)).toContain('0 stray files');
  });
});

test('a take folder without a row is moved aside, stays there, and is put back as a take', {
  tag: AT_LENGTH,
}, async () => {
  await withStudio({ takes: true, database: true }, async (studio) => {
    const stray = join(studio.takes, newTakeId());
    cpSync(join(studio.takes, PREVIOUS_TAKE), stray, { recursive: true });
    const ids = new Map<string, string>();
    for (const name of readdirSync(stray)) {
      const [id = '', part = ''] = name.split('.');
      if (part !== 'media' && part !== 'index') renameSync(join(stray, name), join(studio.data, name));
      else {
        ids.set(id, ids.get(id) ?? newSegmentId());
        renameSync(join(stray, name), join(stray, `${ids.get(id)}.${part}`));
      }
    }
    // The worker, which sweeps when it starts, may have been quicker.
    await script('sweep', studio);
    expect(existsSync(stray)).toBe(false);
    const listed = await script('sweep', studio, '--trash');
    expect(listed).toContain(`takes/${basename(stray)}`);
    expect(listed).toContain('no take of that name; a recording, kept until you delete it');
    const said = await script('sweep', studio, '--restore');
    expect(said).toContain(`restored: ${stray}`);
    expect(said).toContain('1 take listed again.');
    expect(await script('sweep', studio)).toContain('0 stray files');
    expect(existsSync(stray)).toBe(true);
    // What was half-made a moment ago may still be in the making.
    writeFileSync(join(stray, 'plain.making-0011.mp4'), 'half');
    expect(await script('sweep', studio)).toContain('0 stray files');
  });
});

test('an upgrade from the previous release keeps its takes, its cut and what is still in a browser', {
  tag: AT_LENGTH,
}, async ({ profile }) => {
  const journal = previousJournal();
  await withStudio({ takes: true, database: true }, async (studio) => {
    const before = tree(studio.takes);
    const context = await launch(profile);
    const page = context.pages()[0] ?? (await context.newPage());
    await page.goto(`${studio.url}/icon.svg`);
    await plantJournal(page, `journal/${journal.take}`, journal.files);
    await page.goto(studio.url);
    await expect(page.getByRole('heading', { name: 'Recorded by the previous release' })).toBeVisible();
    await isReady(studio, journal.take);
    await page.reload();
    await expect(page.getByText('Everything you recorded is safe: 2 takes on the server.')).toBeVisible();
    for (const take of [PREVIOUS_TAKE, journal.take]) await expectPlays(page, studio.url, take);
    expect(await script('sweep', studio)).toContain('0 stray files (0 bytes), 0 empty rows');
    for (const path of before) expect(existsSync(join(studio.takes, path)), path).toBe(true);
    const [lesson] = await studio.rows<{ title: string }>(
      'select l.title from lesson l join take t on t.lesson_id = l.id where t.id = $1',
      [journal.take],
    );
    expect(lesson?.title).toBe('Left in the browser by the previous release');
    await context.close();
  });
});

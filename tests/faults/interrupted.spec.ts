// Whoever is killed, at whatever moment: what was recorded is there afterwards.

import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { launch } from '../support/browser';
import { missingNumbers, readCardFilm } from '../support/card-film';
import { readJournals } from '../support/journals';
import { complaints, differing, type KeptTrack, keptTracks } from '../support/kept';
import { healthy, killBrowser, rows, signal } from '../support/processes';
import {
  armed,
  expect,
  FULL_CARD_RIG,
  finished,
  lessonOf,
  recordFor,
  startRecording,
  takeFolder,
} from '../support/studio';
import { AT_LENGTH, test } from '../support/test';

const TITLES = ['App sound', 'Camera', 'Screen', 'Voice'];

/** The take that is being recorded on this page now, known to the server as soon as its journal was begun. */
async function liveTake(page: Page): Promise<string> {
  const lesson = new URL(page.url()).pathname.split('/')[2];
  for (;;) {
    const [take] = await rows<{ id: string }>('select id from take where lesson_id = $1', [lesson]);
    if (take) return take.id;
    await new Promise((done) => setTimeout(done, 100));
  }
}

/** The clock of the deck, seconds. */
const shownS = async (page: Page) => {
  const [minutes = 0, seconds = 0] = ((await page.getByRole('timer').textContent()) ?? '')
    .split(':')
    .map(Number);
  return minutes * 60 + seconds;
};

// A test that failed in between must not leave the server standing still for the next one.
test.afterEach(() => signal('web', 'SIGCONT'));

async function expectWhole(folder: string, leastS: number): Promise<KeptTrack[]> {
  const tracks = await keptTracks(folder);
  expect(tracks.map(({ title }) => title).sort()).toEqual(TITLES);
  for (const { title, startUs, endUs } of tracks) {
    expect(startUs / 1e6, title).toBeLessThan(0.5);
    expect(endUs / 1e6, title).toBeGreaterThan(leastS);
  }
  expect(await complaints(join(folder, 'recorded.mkv'))).toBe('');
  expect(await complaints(join(folder, 'plain.mp4'))).toBe('');
  return tracks;
}

test('a tab that is closed in the middle of a recording loses at most a second, and the next visit finds the take', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page);
  await startRecording(page);
  const takeId = await liveTake(page);
  await page.waitForTimeout(2000);
  const seconds = await shownS(page);
  const next = await page.context().newPage();
  await page.close({ runBeforeUnload: false });
  await next.goto('/');
  // The page says where the recovered take is.
  await expect(
    next.getByText(/^A recording that was cut off after 0:0\d was recovered: “First take” of “Fault”\.$/),
  ).toBeVisible({
    timeout: 30_000,
  });
  await next.getByRole('link', { name: 'Open the take' }).click();
  await finished(next);
  expect(next.url()).toContain(takeId);
  await expect(next.getByText(/^Recovered: the recording was cut off after 0:0\d/)).toBeVisible();
  await expectWhole(takeFolder(takeId), seconds - 1);
  expect(await differing(takeId, takeFolder(takeId))).toEqual([]);
});

test('a browser that is killed (-9) while the server is away loses at most a second', async ({ profile }) => {
  const first = await launch(profile);
  const page = first.pages()[0] ?? (await first.newPage());
  await armed(page);
  signal('web', 'SIGSTOP');
  await startRecording(page);
  await page.waitForTimeout(3000);
  const seconds = await shownS(page);
  killBrowser(profile);
  await first.close().catch(() => undefined);
  signal('web', 'SIGCONT');

  const second = await launch(profile);
  const again = second.pages()[0] ?? (await second.newPage());
  await again.goto('/');
  await again.getByRole('link', { name: 'Open the take' }).click({ timeout: 30_000 });
  await finished(again);
  const takeId = again.url().split('/').pop() ?? '';
  await expectWhole(takeFolder(takeId), seconds - 1);
  expect(await differing(takeId, takeFolder(takeId))).toEqual([]);
  await second.close();
});

test('the web server and PostgreSQL are killed, the network hangs and answers are lost while a take is recorded and uploaded: identical bytes arrive, no frame is missing', async ({
  profile,
}) => {
  // Pages of a server that is away complain; that is not what is asked here.
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  await armed(page);
  let lost = 0;
  await context.route('**/confirm', async (route) => {
    // The server does it; only what it says does not arrive.
    if (++lost > 10) return route.continue();
    await route.fetch();
    await route.abort();
  });
  const { takeId, folder } = await recordFor(page, 1500, async () => {
    await page.waitForTimeout(2000);
    for (const victim of ['web', 'database'] as const)
      await test.step(`${victim} is killed`, async () => {
        signal(victim, 'SIGKILL');
        await page.waitForTimeout(1000);
        await healthy();
        await page.waitForTimeout(1000);
      });
    await test.step('the network hangs', async () => {
      signal('web', 'SIGSTOP');
      await page.waitForTimeout(5000);
      signal('web', 'SIGCONT');
    });
  });
  await finished(page);
  expect(lost).toBeGreaterThan(10);
  await expectWhole(folder, 10);
  expect(await differing(takeId, folder)).toEqual([]);
  const frames = await readCardFilm(join(folder, 'recorded.mkv'));
  const [take] = await rows<{
    ledger: { screen: { skipped: number; dropped: number; lostBefore: number } };
  }>('select ledger from take where id = $1', [takeId]);
  const { skipped = 0, dropped = 0, lostBefore = 0 } = take?.ledger.screen ?? {};
  expect(missingNumbers(frames).length).toBeLessThanOrEqual(skipped + dropped + lostBefore);
  await context.close();
});

test('the web server, PostgreSQL and the worker are killed while a take is being finished: the job runs again and leaves nothing half-made', async ({
  profile,
}) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  // Large enough that its job is not done before it can be killed.
  await armed(page, FULL_CARD_RIG);
  const { takeId, folder } = await recordFor(page, 9000);
  const job = async () =>
    (
      await rows<{ state: string; started_at: Date | null }>(
        'select state, started_at from job where subject = $1',
        [takeId],
      )
    )[0];
  const running = () =>
    expect.poll(async () => (await job())?.state, { timeout: 30_000, intervals: [50] }).toBe('running');
  await running();
  // The web server does not work on it: the job simply goes on.
  signal('web', 'SIGKILL');
  for (const victim of ['database', 'worker'] as const)
    await test.step(`${victim} is killed`, async () => {
      await running();
      const before = (await job())?.started_at?.getTime();
      signal(victim, 'SIGKILL');
      // Abandoned jobs are looked for every second; how long a process takes to start is the machine's.
      await expect
        .poll(async () => (await job())?.started_at?.getTime() !== before, {
          timeout: 60_000,
          intervals: [100],
        })
        .toBe(true);
    });
  await expect.poll(async () => (await job())?.state, { timeout: 60_000 }).toBe('done');
  await expectWhole(folder, 8);
  expect(await differing(takeId, folder)).toEqual([]);
  await healthy();
  await context.close();
});

test('a browser that is offline while it records and stops sends the whole take when it is back', {
  tag: AT_LENGTH,
}, async ({ profile }) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  await armed(page);
  const lesson = lessonOf(page);
  await context.setOffline(true);
  await startRecording(page);
  await page.waitForTimeout(2500);
  const seconds = await shownS(page);
  await page.getByRole('button', { name: /^Stop/ }).click();
  await expect(page.getByText('Closing the files')).toBeHidden();
  await page.waitForTimeout(3000);
  await context.setOffline(false);
  // The page could not be changed while the server was away; whatever it shows now, the take arrives.
  await page.goto('/');
  let takeId = '';
  await expect
    .poll(
      async () => {
        const [take] = await rows<{ id: string }>('select id from take where lesson_id = $1', [lesson]);
        takeId = take?.id ?? '';
        return takeId;
      },
      { timeout: 60_000 },
    )
    .not.toBe('');
  await page.goto(`/takes/${takeId}`);
  await finished(page);
  await expectWhole(takeFolder(takeId), seconds - 1);
  expect(await differing(takeId, takeFolder(takeId))).toEqual([]);
  // The server has all of it: nothing is kept in the browser any more.
  await expect
    .poll(async () => Object.keys(await readJournals(page)).filter((path) => path.includes(takeId)))
    .toEqual([]);
  await context.close();
});

test('a browser that is killed (-9) after Stop, while it uploads, loses nothing', { tag: AT_LENGTH }, async ({
  profile,
}) => {
  const first = await launch(profile);
  const page = first.pages()[0] ?? (await first.newPage());
  await armed(page);
  // Not a byte gets through until the take has ended.
  await first.route('**/api/uploads/**', (route) => route.abort());
  await startRecording(page);
  await page.waitForTimeout(2500);
  const seconds = await shownS(page);
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.waitForURL(/\/takes\//);
  const takeId = page.url().split('/').pop() ?? '';
  killBrowser(profile);
  await first.close().catch(() => undefined);

  const second = await launch(profile);
  const again = second.pages()[0] ?? (await second.newPage());
  await again.goto(`/takes/${takeId}`);
  await finished(again);
  await expectWhole(takeFolder(takeId), seconds - 0.1);
  expect(await differing(takeId, takeFolder(takeId))).toEqual([]);
  // It was ended by its button, and says nothing of a recovery.
  const [take] = await rows<{ cut_off: boolean }>('select cut_off from take where id = $1', [takeId]);
  expect(take?.cut_off).toBe(false);
  await second.close();
});

test('a take whose lesson is deleted while it arrives is offered for a new lesson too', {
  tag: AT_LENGTH,
}, async ({ profile }) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  await armed(page);
  await startRecording(page);
  const takeId = await liveTake(page);
  await page.waitForTimeout(2000);
  const [lesson] = await rows<{ lesson_id: string }>('select lesson_id from take where id = $1', [takeId]);
  await page.request.patch(`/api/lessons/${lesson?.lesson_id}`, { data: { deleted: true } });
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.waitForURL(/\/takes\//);
  await page.goto('/');
  await expect(page.getByText('The lesson of this take was deleted.').first()).toBeVisible({
    timeout: 30_000,
  });
  await page.getByRole('button', { name: 'Save in a new lesson' }).click();
  await page.goto(`/takes/${takeId}`);
  await finished(page);
  await expect(page.getByRole('heading', { name: 'Recovered recording' })).toBeVisible();
  await expectWhole(takeFolder(takeId), 1.5);
  await context.close();
});

test('a take whose lesson is gone stays in the browser, which says so and saves it in a new lesson at one click', {
  tag: AT_LENGTH,
}, async ({ profile }) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  await armed(page);
  const lesson = lessonOf(page);
  signal('web', 'SIGSTOP');
  await startRecording(page);
  await page.waitForTimeout(2500);
  await rows('delete from lesson where id = $1', [lesson]);
  signal('web', 'SIGCONT');
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.waitForURL(/\/takes\//);
  const takeId = page.url().split('/').pop() ?? '';
  await page.goto('/');
  await expect(page.getByText(/^A recording from .* is only in this browser/)).toBeVisible({
    timeout: 20_000,
  });
  await page.getByRole('button', { name: 'Save in a new lesson' }).click();
  await expect(page.getByRole('heading', { name: 'Recovered recording' }).first()).toBeVisible({
    timeout: 30_000,
  });
  await page.goto(`/takes/${takeId}`);
  await finished(page);
  await expectWhole(takeFolder(takeId), 2);
  await context.close();
});

// A take that begins and ends with nobody there: by a length, by times of day.

import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { newScheduleId } from '@/core/base/ids';
import { withPlainBrowser } from './support/browser';
import { readCardFilm, videoTimes } from './support/card-film';
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  choose,
  expect,
  expectAccessible,
  finished,
  lessonOf,
  startRecording,
  stretch,
  takeOpened,
} from './support/studio';
import { AT_LENGTH, test } from './support/test';

// One of the tests keeps the page from saying that its take has started.
test.use({ refused: /api\/scheduled/ });

/** Types a time of day; the list of times that opens beside it is closed again. */
async function setTime(page: Page, name: 'Start' | 'Stop', time: string): Promise<void> {
  const field = page.getByLabel(name, { exact: true });
  await field.click();
  await field.fill(time);
  await field.press('Enter');
}

test('a take ends after a length that was typed, to the picture, and says so before, all the while and after', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, { ...CARD_RIG, camera: null });
  await page.getByRole('link', { name: 'Set up' }).first().click();
  await stretch(page, 'File');
  await choose(page, 'Stop automatically after', 'Custom …');
  const length = page.getByRole('textbox', { name: 'Custom length' });
  await length.fill('1:75');
  await length.press('Enter');
  await expect(page.getByText('Enter a length from 0:01 to 24:00:00.')).toBeVisible();
  await expect(length).toHaveValue('');
  await length.fill('0:08');
  await length.press('Enter');
  const note = 'The take ends automatically after 8 s.';
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText(note);
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText(note);
  await expect(page.getByText('0:08 left')).toBeVisible();
  await startRecording(page);
  await expect(page.getByText(/0:0[5-7] left/)).toBeVisible();
  await expect(page.getByText(/^The take ends automatically in 0:0\d\./)).toBeVisible();
  const { takeId, folder } = await takeOpened(page);
  await finished(page);
  await expect(page.getByText('The take ended at its limit of 8 s.')).toBeVisible();
  const [take] = await rows<{ duration_us: string }>('select duration_us from take where id = $1', [takeId]);
  expect(Number(take?.duration_us)).toBe(8_000_000);
  const times = await videoTimes(join(folder, 'recorded.mkv'));
  // How many there are is a matter of the machine; where they end is not.
  expect(times.length).toBeGreaterThan(30);
  expect(Math.max(...times)).toBeLessThan(8_000_000);
  expect(Math.max(...times)).toBeGreaterThan(8_000_000 - 250_000);
  // The last picture is the one of that instant: none that came after the limit.
  const film = await readCardFilm(join(folder, 'plain.mp4'));
  // The card counts its pictures, and the film has one for each of them: how far apart the two counts are says when it began. The very
  // first picture may be an older one, where the card was late.
  const ahead = film.flatMap(({ frame }, n) => (frame === null ? [] : frame - n)).sort((a, b) => a - b);
  const began = ahead[Math.floor(ahead.length / 2)] ?? Number.NaN;
  const numbers = film.flatMap(({ frame }) => frame ?? []);
  expect(Math.max(...numbers) - began).toBeLessThanOrEqual(241);
});

test('a double click on Record begins the countdown, and one more click skips it', async ({
  studio: page,
}) => {
  await armed(page, { ...CARD_RIG, camera: null, countdownS: 5 });
  await page.getByRole('button', { name: 'Record R', exact: true }).dblclick();
  await expect(page.getByRole('button', { name: 'Start now' })).toBeVisible();
  await page.waitForTimeout(1000);
  await expect(page.getByRole('button', { name: 'Start now' })).toBeVisible();
  await page.getByRole('button', { name: 'Start now' }).click();
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  await page.getByRole('button', { name: /^Stop/ }).click();
  await takeOpened(page);
});

/** A time of day as it is typed. */
const clock = (ms: number) => {
  const at = new Date(ms);
  return [at.getHours(), at.getMinutes(), at.getSeconds()].map((n) => String(n).padStart(2, '0')).join(':');
};

// It depends on the second, so nothing else may run beside it.
test('takes of a list are recorded one after the other, and one that could not start says why', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, { ...CARD_RIG, camera: null });
  const lesson = page.url().split('/').at(-2) ?? '';
  await rows(
    `insert into scheduled (id, lesson_id, start_at, state, created_at, updated_at)
     values ($1, $2, now() - interval '2 minutes', 'waiting', now(), now())`,
    [newScheduleId(), lesson],
  );
  const list = page.getByRole('list', { name: 'Scheduled takes' });
  await expect(
    list.getByText('No page of this lesson was open on Record and armed at that time.'),
  ).toBeVisible({
    timeout: 20_000,
  });
  const home = await page.context().newPage();
  await home.goto('/');
  const told = home.getByText(/^A scheduled take is missing\. No page of this lesson was open/);
  await expect(told.first()).toBeVisible();
  await home.close();
  await list.getByRole('button', { name: /from the list/ }).click();
  await expect(list).toBeHidden();
  // Three are put into the list before the first one begins: on a slow machine that takes a while.
  const firstMs = Math.ceil((Date.now() + 15_000) / 1000) * 1000;
  const starts = [firstMs, firstMs + 9000];
  const add = async (startMs: number, endMs: number) => {
    await setTime(page, 'Start', clock(startMs));
    await setTime(page, 'Stop', clock(endMs));
    await page.getByRole('button', { name: /^Schedule for/ }).click();
  };
  // The panel was open for the sake of its list alone.
  await expect(page.getByLabel('Start', { exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Schedule', exact: true }).first().click();
  // The later one first: the page counts down to it, until an earlier one is put into the list.
  for (const startMs of [...starts].reverse()) {
    await add(startMs, startMs + 3000);
    await expect(list.getByText(clock(startMs).replace(/:00$/, ''))).toBeVisible();
  }
  await add(firstMs + 1000, firstMs + 2000);
  await expect(page.getByText(/It would run into the take at/)).toBeVisible();
  // The last of them opens its page like any other.
  await page.waitForURL(/\/takes\//, { timeout: 40_000 });
  await expect
    .poll(
      async () =>
        (
          await rows<{ started_at: Date }>(
            'select started_at from take where lesson_id = $1 order by started_at',
            [lesson],
          )
        ).map(({ started_at }, i) => Math.abs(new Date(started_at).getTime() - (starts[i] ?? 0)) < 1500),
      { timeout: 20_000 },
    )
    .toEqual([true, true]);
});

test('a take starts and stops at times of day, to the second; it was not missed, though the page could never say so', async ({
  studio: page,
}) => {
  await page.route('**/api/scheduled/*', (route) => route.abort());
  await armed(page, { ...CARD_RIG, camera: null });
  const lesson = lessonOf(page);
  await page.getByRole('button', { name: 'Schedule', exact: true }).click();
  // Whole seconds, far enough away to be typed.
  const startMs = Math.ceil((Date.now() + 15_000) / 1000) * 1000;
  await setTime(page, 'Start', clock(startMs));
  await setTime(page, 'Stop', clock(startMs + 4000));
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Schedule for/ }).click();
  await expect(page.getByText(/^Armed: recording starts at/)).toBeVisible();
  await expect(page.getByRole('timer').filter({ hasText: /^1?\d$/ })).toBeVisible();
  const { takeId } = await takeOpened(page);
  await finished(page);
  await expect(page.getByText(/The take ended at .*, as scheduled\./)).toBeVisible();
  const [take] = await rows<{ started_at: Date; duration_us: string }>(
    'select started_at, duration_us from take where id = $1',
    [takeId],
  );
  const began = new Date(take?.started_at ?? 0).getTime();
  expect(began - startMs).toBeGreaterThanOrEqual(0);
  expect(began - startMs).toBeLessThan(1000);
  const ended = began + Number(take?.duration_us) / 1000;
  expect(Math.abs(ended - (startMs + 4000))).toBeLessThan(1000);
  const scheduled = () => rows('select state, take, problem from scheduled where lesson_id = $1', [lesson]);
  await expect
    .poll(scheduled, { timeout: 20_000 })
    .toEqual([{ state: 'started', take: takeId, problem: null }]);
});

test('a page behind another one, whose timers run once a second, starts its take on the second', {
  tag: AT_LENGTH,
}, async ({ profile }) => {
  await withPlainBrowser(profile, async (context) => {
    const page = context.pages()[0] ?? (await context.newPage());
    await armed(page, { ...CARD_RIG, camera: null });
    await page.getByRole('button', { name: 'Schedule', exact: true }).click();
    const startMs = Math.ceil((Date.now() + 40_000) / 1000) * 1000;
    await setTime(page, 'Start', clock(startMs));
    await page.getByRole('button', { name: /^Schedule for/ }).click();
    await expect(page.getByText(/^Armed: recording starts at/)).toBeVisible();
    const lesson = lessonOf(page);
    const front = await context.newPage();
    await front.goto('about:blank');
    await front.waitForTimeout(8000);
    await page.evaluate(() => {
      const counted = window as unknown as { ticks: number };
      counted.ticks = 0;
      setInterval(() => counted.ticks++, 100);
    });
    await front.waitForTimeout(15_000);
    const ticks = await page.evaluate(() => (window as unknown as { ticks: number }).ticks);
    expect(await page.evaluate(() => document.visibilityState)).toBe('hidden');
    // Of a hundred and fifty: the browser slows what nobody sees.
    expect(ticks).toBeLessThan(20);
    const took = () =>
      rows<{ started_at: Date }>('select started_at from take where lesson_id = $1', [lesson]);
    await expect.poll(async () => (await took()).length, { timeout: 40_000 }).toBe(1);
    const late = new Date((await took())[0]?.started_at ?? 0).getTime() - startMs;
    expect(late).toBeGreaterThanOrEqual(0);
    expect(late).toBeLessThan(1000);
  });
});

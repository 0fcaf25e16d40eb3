// Nothing records without a page that shows it, and no page is left by accident while it does.
import type { Page } from '@playwright/test';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { launch } from './support/browser';
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  expect,
  expectAccessible,
  lessonOf,
  startRecording,
  takeOpened,
} from './support/studio';
import { AT_LENGTH, test } from './support/test';

const band = (page: Page) => page.getByRole('complementary', { name: 'Recording' });
const question = (page: Page) => page.getByRole('dialog', { name: 'Leave this page while it is recording?' });

const deckStop = (page: Page) => page.getByRole('button', { name: 'Stop S', exact: true });

const takesOf = (lesson: string) =>
  rows<{ id: string; cut_off: boolean; state: string }>(
    'select id, cut_off, state from take where lesson_id = $1',
    [lesson],
  );

test('leaving Record by a link asks first; the recording stays in sight on every page, with Stop and a way back', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page);
  const lesson = lessonOf(page);
  await startRecording(page);
  await expect(page).toHaveTitle(/^● /);
  await expect(band(page)).toBeHidden();
  await page.getByRole('link', { name: 'Mellow Otter: all lessons' }).click();
  await question(page).getByRole('button', { name: 'Stay' }).click();
  await expect(question(page)).toBeHidden();
  expect(page.url()).toContain('/record');

  await page.getByRole('link', { name: 'Mellow Otter: all lessons' }).click();
  await question(page).getByRole('button', { name: 'Continue recording' }).click();
  await expect(page.getByRole('heading', { name: 'Lessons in the making' })).toBeVisible();
  await expect(band(page)).toBeVisible();
  await expect(page).toHaveTitle(/^● /);
  await expect(page.locator('link[rel=icon][href="/recording.svg"]')).toHaveCount(1);
  await expectAccessible(page);
  // It records on: its clock goes on.
  const clock = band(page).getByRole('timer');
  const shown = await clock.textContent();
  await expect.poll(() => clock.textContent(), { timeout: 10_000 }).not.toBe(shown);
  for (const address of ['Rigs', 'Bin']) {
    await page.getByRole('link', { name: address, exact: true }).click();
    await expect(page.getByRole('heading', { name: address, level: 1 })).toBeVisible();
    await expect(band(page)).toBeVisible();
    await page.goBack();
    await expect(page.getByRole('heading', { name: 'Lessons in the making' })).toBeVisible();
  }

  await band(page).getByRole('link', { name: 'Show the recording' }).click();
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  await expect(band(page)).toBeHidden();
  await page.getByRole('button', { name: /^Stop/ }).click();
  await takeOpened(page);
  await expect(page).not.toHaveTitle(/^● /);
  await expect.poll(async () => (await takesOf(lesson)).length).toBe(1);
});

test('Back asks first too; stopping saves the take and goes where Back would have gone', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await page.goto('/rigs');
  await page.goto('/');
  await armed(page);
  const lesson = lessonOf(page);
  await startRecording(page);
  await page.waitForTimeout(1500);
  await page.goBack();
  await question(page).getByRole('button', { name: 'Stay' }).click();
  await expect(question(page)).toBeHidden();
  await expect(deckStop(page)).toBeVisible();
  expect(page.url()).toContain(`/lessons/${lesson}/record`);
  await page.goBack();
  await question(page).getByRole('button', { name: 'Stop and save the take' }).click();
  await expect(page.getByRole('heading', { name: 'Lessons in the making' })).toBeVisible({ timeout: 20_000 });
  await expect(band(page)).toBeHidden();
  await expect.poll(async () => (await takesOf(lesson))[0]?.cut_off, { timeout: 30_000 }).toBe(false);
});

test('a recording that goes on in another lesson is stopped from the band, whole; another tab shows it as well', {
  tag: AT_LENGTH,
}, async ({ profile }) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  const other: Rig = { ...PRACTICE_RIG, camera: null, appSound: null };
  await armed(page, other);
  const second = lessonOf(page);
  await armed(page, CARD_RIG);
  const lesson = lessonOf(page);
  await startRecording(page);
  await page.waitForTimeout(1000);

  const tab = await context.newPage();
  await tab.goto('/');
  await expect(band(tab)).toContainText('in another tab', { timeout: 15_000 });
  await expect(tab).toHaveTitle(/^● /);
  await tab.close();

  await page.bringToFront();
  await page.getByRole('link', { name: 'Mellow Otter: all lessons' }).click();
  await question(page).getByRole('button', { name: 'Continue recording' }).click();
  await page.locator(`a[href^="/lessons/${second}/"]`).first().click();
  await page.waitForURL(new RegExp(`/lessons/${second}/`), { timeout: 15_000 });
  await expect(band(page)).toBeVisible();
  await band(page).getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('Recording complete.')).toBeVisible({ timeout: 20_000 });
  await expect(band(page)).toBeHidden();
  await page.getByRole('button', { name: 'Open the take' }).click();
  const { takeId } = await takeOpened(page);
  await expect
    .poll(async () => (await takesOf(lesson)).map(({ id, cut_off }) => [id, cut_off]), { timeout: 30_000 })
    .toEqual([[takeId, false]]);
  await context.close();
});

test('another tab stops a recording', { tag: AT_LENGTH }, async ({ profile }) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  await armed(page);
  await startRecording(page);
  const tab = await context.newPage();
  await tab.goto('/');
  await band(tab).getByRole('button', { name: 'Stop' }).click({ timeout: 15_000 });
  await takeOpened(page);
  await expect(band(tab)).toBeHidden();
  await context.close();
});

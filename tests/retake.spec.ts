// A stumble does not mean recording everything again: one step is recorded again. That a video goes from one take to another, picture by
// picture, is shown in lesson.spec.ts; how steps are arranged, in arranging.spec.ts.
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { readCardFilm } from './support/card-film';
import { storedCut } from './support/delivering';
import { rows } from './support/processes';
import {
  armed,
  expect,
  expectAccessible,
  finished,
  lessonOf,
  recordFor,
  shownCard,
  startRecording,
  takeFolder,
} from './support/studio';
import { test } from './support/test';

// Two takes are recorded.
test.describe.configure({ timeout: 240_000 });
// The waveform of a take that has just ended is asked for until it is made.
test.use({ refused: /404/ });

const piecesOf = async (lesson: string) =>
  (await storedCut(lesson)).steps.map(({ pieces }) => pieces.map(({ take }) => take));

const saved = (page: Page) => expect(page.getByText('saved', { exact: true })).toBeVisible();

test('a step is recorded again and takes its place, and undo brings the old one back', async ({
  studio: page,
}) => {
  await armed(page);
  const lesson = lessonOf(page);
  const { takeId: first } = await recordFor(page, 4000);
  await finished(page);
  await page.goto(`/lessons/${lesson}/edit`);
  const player = page.locator('.player[data-loaded=true]');
  await expect(player).toBeVisible();
  for (let i = 0; i < 60; i++) await page.keyboard.press('ArrowRight');
  await page.locator('.player[data-exact=true]').waitFor();
  await page.keyboard.press('s');
  await expect(page.getByRole('heading', { name: /^2 steps/ })).toBeVisible();
  await page.getByRole('textbox', { name: 'Title of step 2' }).fill('Label the jars');
  await saved(page);
  const before = await storedCut(lesson);

  await page.getByRole('button', { name: 'More for Label the jars' }).click();
  await page.getByRole('menuitem', { name: 'Record this step again' }).click();
  await expect(
    page.getByText(
      'You are recording “Label the jars” again. After Stop, the new take replaces it in the cut.',
    ),
  ).toBeVisible();
  await expectAccessible(page);
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  await startRecording(page);
  await page.waitForTimeout(3000);
  await page.getByRole('button', { name: /^Stop/ }).click();
  await expect(
    page.getByText(/^Label the jars now shows Second take\. Undo brings the old one back\./),
  ).toBeVisible({
    timeout: 60_000,
  });
  await page.waitForURL(/\/edit$/);
  await saved(page);
  const [{ id: second } = { id: '' }] = await rows<{ id: string }>(
    'select id from take where lesson_id = $1 and number = 2',
    [lesson],
  );
  expect(await piecesOf(lesson)).toEqual([[first], [second]]);
  const after = await storedCut(lesson);
  expect(after.steps[1]).toEqual({ ...before.steps[1], pieces: after.steps[1]?.pieces });
  expect(after.steps[0]).toEqual(before.steps[0]);

  // The player shows the new take there, from its first frame in the step.
  const numbersOf = async (take: string) => await readCardFilm(join(takeFolder(take), 'recorded.mkv'));
  const numberAt = async (take: string, takeUs: number) =>
    (await numbersOf(take)).findLast(({ ptsUs }) => ptsUs <= takeUs)?.frame;
  await page.getByRole('button', { name: 'Go to Label the jars' }).click();
  await expect.poll(() => shownCard(page)).toBe(await numberAt(second, after.steps[1]?.pieces[0]?.inUs ?? 0));

  await page.keyboard.press('Control+z');
  await expect.poll(() => piecesOf(lesson)).toEqual([[first], [first]]);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => piecesOf(lesson)).toEqual([[first], [second]]);
});

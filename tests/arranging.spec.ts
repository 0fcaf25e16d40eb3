// Steps of a video are arranged: takes are added, steps moved, duplicated, trimmed, marked and deleted.
import type { Page } from '@playwright/test';
import { newStepId } from '@/core/base/ids';
import { type Cut, cutLengthUs } from '@/core/cut/cut';
import { saveCut, storedCut } from './support/delivering';
import { plainCut } from './support/made-up';
import { plantedLesson } from './support/planted';
import { rows } from './support/processes';
import { expect, expectAccessible } from './support/studio';
import { AT_LENGTH, test } from './support/test';

// Thumbnails of a take that has just been made are asked for until they are there.
test.use({ refused: /404/ });

const stepIds = async (lesson: string) => (await storedCut(lesson)).steps.map(({ id }) => id);

const saved = (page: Page) => expect(page.getByText('saved', { exact: true })).toBeVisible();

/** Chooses an entry of a step's menu. */
async function choose(page: Page, step: string, entry: string): Promise<void> {
  await page.getByRole('button', { name: `More for ${step}` }).click();
  await page.getByRole('menuitem', { name: entry }).click();
  // It fades away.
  await expect(page.getByRole('menuitem').first()).toBeHidden();
}

/** A lesson of two steps, the halves of a take. */
async function twoSteps(page: Page): Promise<{ lesson: string; cut: Cut }> {
  const { lesson, take } = await plantedLesson(page, 'Seed jars');
  const [row] = await rows<{ duration_us: string }>('select duration_us from take where id = $1', [take]);
  const outUs = Number(row?.duration_us);
  const halfUs = Math.round(outUs / 2);
  const whole = plainCut(take, []);
  const steps = whole.steps.flatMap((step) => [
    { ...step, id: newStepId(), pieces: [{ take, inUs: 0, outUs: halfUs }] },
    { ...step, id: newStepId(), title: 'Label the jars', pieces: [{ take, inUs: halfUs, outUs }] },
  ]);
  await saveCut(page, lesson, { ...whole, steps });
  return { lesson, cut: await storedCut(lesson) };
}

test('a take is added, steps are moved by keys and by dragging, duplicated, selected, trimmed, marked and deleted', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const { lesson, cut: before } = await twoSteps(page);
  const [filled, labelled] = before.steps.map(({ id }) => id);
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();

  // A take is added where the playhead is: before everything.
  await page.keyboard.press('Home');
  await page.getByRole('button', { name: 'Add a take' }).click();
  await page.getByRole('menuitem', { name: /take, 0:0\d$/ }).click();
  await expect.poll(async () => (await stepIds(lesson)).length).toBe(3);
  const [added] = await stepIds(lesson);
  expect(await stepIds(lesson)).toEqual([added, filled, labelled]);
  expect(cutLengthUs(await storedCut(lesson))).toBe(2 * cutLengthUs(before));

  // It is moved to the end by keyboard alone.
  await page.getByRole('button', { name: 'Move Step 1' }).focus();
  for (const key of ['Space', 'ArrowDown', 'ArrowDown', 'Space']) {
    await page.keyboard.press(key);
    await page.waitForTimeout(300);
  }
  await expect.poll(() => stepIds(lesson)).toEqual([filled, labelled, added]);
  // And back again by dragging.
  const handle = await page.getByRole('button', { name: 'Move Step 3' }).boundingBox();
  const target = await page.getByRole('button', { name: 'Move Step 1' }).boundingBox();
  if (!handle || !target) throw new Error('There are no handles.');
  await page.mouse.move(handle.x + 8, handle.y + 8);
  await page.mouse.down();
  await page.mouse.move(target.x + 8, target.y + 30, { steps: 8 });
  await page.mouse.move(target.x + 8, target.y + 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => stepIds(lesson)).toEqual([added, filled, labelled]);

  await choose(page, 'Label the jars', 'Duplicate');
  await expect(page.getByRole('heading', { name: /^4 steps/ })).toBeVisible();
  // Two that lie apart are deleted at once.
  await choose(page, 'Step 4', 'Select');
  await page.getByRole('button', { name: 'Go to Step 1' }).click({ modifiers: ['ControlOrMeta'] });
  const several = page.getByRole('group', { name: 'Selected steps' });
  await expect(several.getByRole('status')).toHaveText('2 selected');
  await expectAccessible(page);
  await several.getByRole('button', { name: 'Delete' }).click();
  await expect.poll(() => stepIds(lesson)).toEqual([filled, labelled]);
  await expect(several).toBeHidden();
  await saved(page);
  await expectAccessible(page);
  const cut = await storedCut(lesson);
  expect(cut).toEqual(before);

  // The second step is trimmed where it begins, by keys: the first stays as it is, and one key brings everything back.
  await page.getByRole('button', { name: 'Go to Label the jars' }).click();
  const trim = page.getByRole('button', { name: 'Start of Label the jars' });
  for (let i = 0; i < 4; i++) await trim.press('Shift+ArrowRight');
  const inUs = async (n: number) => (await storedCut(lesson)).steps[n]?.pieces[0]?.inUs ?? 0;
  await expect.poll(() => inUs(1)).toBeGreaterThan((cut.steps[1]?.pieces[0]?.inUs ?? 0) + 30_000);
  expect(await inUs(0)).toBe(cut.steps[0]?.pieces[0]?.inUs);
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect.poll(() => storedCut(lesson)).toEqual(cut);

  // A mark is set by a key, named, moved along its take and removed; the take keeps none of it.
  await page.keyboard.press('a');
  await page.getByRole('button', { name: /^Marks/ }).click();
  const marks = page.getByRole('dialog', { name: 'Marks' });
  await marks.getByRole('textbox', { name: 'Title of mark 1' }).fill('Lids on');
  await expectAccessible(page);
  await marks.getByRole('button', { name: 'Close' }).click();
  const mark = page.getByRole('button', { name: /^Lids on at/ });
  await mark.press('Shift+ArrowRight');
  const marked = async () => (await storedCut(lesson)).marks;
  await expect.poll(async () => (await marked())[0]?.title).toBe('Lids on');
  await expect
    .poll(async () => ((await marked())[0]?.atUs ?? 0) - ((await marked())[0]?.setUs ?? 0))
    .toBeGreaterThan(0);
  await page.getByRole('button', { name: /^Marks/ }).click();
  await marks.getByRole('button', { name: 'Delete Lids on' }).click();
  await marks.getByRole('button', { name: 'Close' }).click();
  await expect.poll(async () => (await marked())[0]?.atUs).toBeNull();
});

// A lesson of a hundred steps: only the rows in sight are there, and every step can still be reached, renamed and moved.
import type { Page } from '@playwright/test';
import { newStepId } from '@/core/base/ids';
import type { Step } from '@/core/cut/cut';
import { saveCut, storedCut } from './support/delivering';
import { plainCut } from './support/made-up';
import { plantedLesson } from './support/planted';
import { expect } from './support/studio';
import { test } from './support/test';

const COUNT = 100;

/** A lesson whose cut shows the same half second of a take in a hundred steps. */
async function manySteps(page: Page): Promise<{ lesson: string; steps: Step[] }> {
  const { lesson, take } = await plantedLesson(page, 'Many steps');
  const whole = plainCut(take, [{ take, inUs: 0, outUs: 500_000 }]);
  const [one] = whole.steps;
  if (!one) throw new Error('A plain cut has a step.');
  const steps = Array.from({ length: COUNT }, (_, i) => ({
    ...one,
    id: newStepId(),
    title: `Tray ${i + 1}`,
  }));
  await saveCut(page, lesson, { ...whole, steps });
  return { lesson, steps };
}

const titles = async (lesson: string) => (await storedCut(lesson)).steps.map(({ title }) => title);

test('of a hundred steps those in sight have a row, and any of them is reached, renamed and moved', async ({
  studio: page,
}) => {
  const { lesson, steps } = await manySteps(page);
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  const list = page.getByRole('region', { name: 'Steps of the video' });
  const items = list.getByRole('listitem');
  await expect(items.first()).toHaveAttribute('aria-setsize', String(COUNT));
  expect(await items.count()).toBeLessThan(30);
  const scrollTo = (share: number) =>
    list.evaluate((box, to) => box.scrollTo({ top: box.scrollHeight * to }), share);
  const title = (number: number) =>
    list.getByRole('textbox', { name: `Title of step ${number}`, exact: true });

  // A click far down goes there.
  await scrollTo(0.5);
  await list.getByRole('button', { name: 'Go to Tray 50' }).click();
  await expect(list.locator('li.on')).toHaveAttribute('aria-posinset', '50');
  await expect(page.locator('.player')).toHaveAttribute('data-position', String(49 * 500_000));

  // Who writes a title and scrolls away goes on writing it.
  await title(50).click();
  await page.keyboard.press('End');
  await scrollTo(1);
  await expect(title(COUNT)).toBeVisible();
  await page.keyboard.type(' b');
  await expect.poll(async () => (await titles(lesson))[49]).toBe('Tray 50 b');

  // By keys, from step to step, past what was in sight, and a step is moved as far.
  await scrollTo(0);
  await list.getByRole('button', { name: 'Move Tray 3', exact: true }).focus();
  await page.keyboard.press('Space');
  await expect(list.locator('[data-dragged]')).toBeVisible();
  for (let place = 4; place <= 24; place++) {
    await page.keyboard.press('ArrowDown');
    await expect(page.getByText(`Tray 3 is at place ${place} of ${COUNT}.`)).toBeAttached();
  }
  await page.keyboard.press('Space');
  const moved = steps.map((_, i) => (i === 49 ? 'Tray 50 b' : `Tray ${i + 1}`));
  moved.splice(23, 0, ...moved.splice(2, 1));
  await expect.poll(() => titles(lesson)).toEqual(moved);
  await expect(list.getByRole('button', { name: 'Move Tray 3', exact: true })).toBeFocused();
});

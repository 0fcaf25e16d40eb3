// A lesson of a hundred steps: only the rows in sight are there, and every step is reached, renamed and moved all the same.
import type { Page } from '@playwright/test';
import { newStepId, type TakeId } from '@/core/base/ids';
import { Cut, type Step } from '@/core/cut/cut';
import { saveCut } from './support/delivering';
import { freshJournal, plantJournal, rootOf } from './support/journals';
import { plainCut } from './support/made-up';
import { rows } from './support/processes';
import { expect } from './support/studio';
import { test } from './support/test';

const COUNT = 100;

/** A lesson with a take that came by itself, and a cut that shows half a second of it again and again. */
async function manySteps(page: Page): Promise<{ lesson: string; steps: Step[] }> {
  const answer = await page.request.post('/api/lessons', { data: { title: 'Many steps' } });
  const { id: lesson } = await answer.json();
  await page.goto('/icon.svg');
  const planted = freshJournal(lesson);
  await plantJournal(page, `${rootOf(2)}/${planted.take}`, planted.files);
  await page.goto('/');
  const states = () => rows<{ state: string }>('select state from job where subject = $1', [planted.take]);
  await expect.poll(states, { timeout: 60_000 }).toEqual([{ state: 'done' }]);
  const whole = plainCut(planted.take as TakeId, [{ take: planted.take, inUs: 0, outUs: 500_000 }]);
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

const titles = async (lesson: string): Promise<string[]> => {
  const [row] = await rows<{ document: unknown }>('select document from cut where lesson_id = $1', [lesson]);
  return row ? Cut.parse(row.document).steps.map(({ title }) => title) : [];
};

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

// A cut points to a take of another lesson: it is seen and handed over, and kept for as long as it is used.
import { Cut } from '@/core/cut/cut';
import { DESTINATIONS } from '@/core/destination/destination';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { rows } from './support/processes';
import { armed, expect, finished, lessonOf, recordFor } from './support/studio';
import { AT_LENGTH, test } from './support/test';

const RIG = { ...PRACTICE_RIG, countdownS: 0, camera: null };

test.use({ refused: /409/ });

test('a take of another lesson is added, and stays when that lesson is deleted until nobody uses it', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, RIG);
  const other = lessonOf(page);
  // The studio may have other lessons of that name.
  const name = `Seed packets ${other.slice(0, 6)}`;
  await page.request.patch(`/api/lessons/${other}`, { data: { title: name } });
  const borrowed = await recordFor(page, 3000);
  await finished(page);
  await armed(page, RIG);
  const lesson = lessonOf(page);
  await recordFor(page, 2000);
  await finished(page);

  await page.goto(`/lessons/${lesson}/edit`);
  const player = page.locator('.player[data-loaded=true]');
  await expect(player).toBeVisible();
  await page.keyboard.press('End');
  await page.getByRole('button', { name: 'Add a take' }).click();
  await page.getByRole('menuitem', { name: 'Take of another lesson' }).click();
  const choice = page.getByRole('dialog', { name: 'Take of another lesson' });
  await choice.getByRole('combobox', { name: 'Take' }).click();
  const options = page.locator('.ant-select-dropdown:visible .ant-select-item-option');
  await expect(options.first()).toBeVisible();
  // Found by the title of its lesson.
  await choice.getByRole('combobox', { name: 'Take' }).fill(name);
  await expect(options).toHaveText([/, 0:0\d$/]);
  await page.keyboard.press('Enter');
  await choice.getByRole('button', { name: 'Add at the playhead' }).click();
  await expect(page.getByRole('heading', { name: /^2 steps, / })).toBeVisible({ timeout: 20_000 });
  const stored = async () => {
    const [row] = await rows<{ document: unknown }>('select document from cut where lesson_id = $1', [
      lesson,
    ]);
    return row ? Cut.parse(row.document) : null;
  };
  await expect.poll(async () => (await stored())?.steps.length ?? 0).toBe(2);
  const index = (await stored())?.steps.findIndex(({ pieces }) => pieces[0]?.take === borrowed.takeId) ?? -1;
  expect(index).toBe(1);
  // It is played at once, from where it was added; its sound is on the strip, and the address is that of the lesson again.
  await expect(player).toHaveAttribute('data-exact', 'true');
  expect(Number(await player.getAttribute('data-position'))).toBeGreaterThan(1_000_000);
  expect(new URL(page.url()).search).toBe('');
  const shownS = async () => Math.round(Number(await player.getAttribute('data-position')) / 1e6);
  const before = await shownS();
  await page.getByRole('button', { name: /^Play Space/ }).click();
  await expect.poll(shownS, { timeout: 20_000 }).toBeGreaterThan(before + 1);

  // Its lesson goes into the bin, and what is used of it stays.
  await page.request.patch(`/api/lessons/${other}`, { data: { deleted: true } });
  await page.reload();
  await expect(player).toBeVisible();
  await page.keyboard.press('End');
  await page.locator('.player[data-exact=true]').waitFor();
  const gone = await page.request.delete(`/api/bin/lesson/${other}`);
  expect([gone.status(), (await gone.json()).message]).toEqual([409, '“Fault” uses a take of this lesson.']);
  await page.goto('/bin');
  const entry = page.getByRole('row').filter({ hasText: name });
  await expect(entry).toContainText('Used in “Fault”');
  await expect(entry.getByRole('button', { name: `Delete ${name} for good` })).toBeDisabled();
  const plan = await page.request.post(`/api/lessons/${lesson}/parcels/foresee`, {
    data: { destination: DESTINATIONS[0] },
  });
  expect(plan.ok()).toBe(true);

  // Nothing of it is shown any more: it can go.
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(player).toBeVisible();
  const cut = (await stored()) as Cut;
  const [{ revision } = { revision: 0 }] = await rows<{ revision: number }>(
    'select revision from cut where lesson_id = $1',
    [lesson],
  );
  const left = { ...cut, steps: cut.steps.filter((_, i) => i !== index) };
  const saved = await page.request.put(`/api/lessons/${lesson}/cut`, { data: { cut: left, revision } });
  expect(saved.ok()).toBe(true);
  expect((await page.request.delete(`/api/bin/lesson/${other}`)).ok()).toBe(true);
  expect(await rows('select id from take where id = $1', [borrowed.takeId])).toEqual([]);
});

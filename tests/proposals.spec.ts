// Pauses and stumbles of a take are proposed for deletion, played before they are accepted, and undone with one key.
import { Cut, cutLengthUs } from '@/core/cut/cut';
import { rows } from './support/processes';
import { armed, expect, expectAccessible, finished, lessonOf, misbehave, recordFor } from './support/studio';
import { AT_LENGTH, test } from './support/test';

test('a long pause and the sentence before a mark are proposed; a joint is played, one is accepted, then all, and undone', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page);
  const lesson = lessonOf(page);
  await recordFor(page, 3500, async () => {
    await page.waitForTimeout(2500);
    await misbehave(page, 'voice', { kind: 'silent' });
    await page.waitForTimeout(2600);
    await misbehave(page, 'voice', null);
    await page.waitForTimeout(2000);
    await page.keyboard.press('m');
  });
  await finished(page);
  await page.goto(`/lessons/${lesson}/edit`);
  const player = page.locator('.player[data-loaded=true]');
  await expect(player).toBeVisible();
  const lengthUs = async () => {
    const [row] = await rows<{ document: unknown }>('select document from cut where lesson_id = $1', [
      lesson,
    ]);
    return row ? cutLengthUs(Cut.parse(row.document)) : null;
  };
  const [take] = await rows<{ duration_us: string }>('select duration_us from take where lesson_id = $1', [
    lesson,
  ]);
  const wholeUs = Number(take?.duration_us);

  await page.getByRole('button', { name: /^Proposals [1-9]/ }).click();
  const list = page.getByRole('dialog', { name: 'Proposals' });
  await expect(list.getByRole('cell', { name: 'Sentence before a mark' })).toBeVisible();
  const pause = list
    .getByRole('row')
    .filter({ has: page.getByRole('cell', { name: 'Pause Cut', exact: true }) })
    .first();
  await expect(pause).toBeVisible();
  await expectAccessible(page);

  // The joint is played without the pause; the stored cut does not change.
  const at = async () => Number(await player.getAttribute('data-position'));
  await pause.getByRole('button', { name: /^Play the proposal at/ }).click();
  await expect(page.getByRole('button', { name: /^Pause/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Play Space/ })).toBeVisible({ timeout: 20_000 });
  expect(await lengthUs()).toBeNull();
  await expect(page.getByRole('heading', { name: /^1 step, / })).toBeVisible();
  const shortest = Number.parseFloat((await pause.getByRole('cell', { name: / s$/ }).textContent()) ?? '');
  expect(shortest).toBeGreaterThan(1);

  await pause.getByRole('button', { name: /^Accept the proposal at/ }).click();
  await expect
    .poll(async () => Math.abs(wholeUs - ((await lengthUs()) ?? 0) - shortest * 1e6))
    .toBeLessThan(60_000);
  expect(await at()).toBeGreaterThan(0);

  // Whatever else is proposed goes with one button, and comes back with one key.
  const before = await lengthUs();
  const all = list.getByRole('button', { name: /^Accept all, / });
  const sum = Number.parseFloat(((await all.textContent()) ?? '').replace(/^.*, /, ''));
  await all.click();
  await expect
    .poll(async () => Math.abs((before ?? 0) - ((await lengthUs()) ?? 0) - sum * 1e6))
    .toBeLessThan(60_000);
  await list.getByRole('button', { name: 'Close' }).click();
  await page.keyboard.press('Control+z');
  await expect.poll(lengthUs).toBe(before);
});

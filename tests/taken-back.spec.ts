// What was changed or deleted can be had back: cuts, takes, lessons, parcels, and the rig of a lesson in two tabs.
import { existsSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { newStepId, type TakeId } from '@/core/base/ids';
import { defaultCut } from '@/core/cut/cut';
import { DESTINATIONS } from '@/core/destination/destination';
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  choose,
  expect,
  expectAccessible,
  lessonOf,
  recordEach,
  stretch,
  takeFolder,
} from './support/studio';
import { AT_LENGTH, test } from './support/test';

test('choosing another take asks, keeps the cut before as a version, and is undone after a reload', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const rig = { ...CARD_RIG, camera: null };
  await armed(page, rig);
  const lesson = lessonOf(page);
  const takes: string[] = [];
  for (const _ of [1, 2]) {
    await page.goto(`/lessons/${lesson}/record`);
    await page.getByRole('button', { name: 'Record R', exact: true }).click({ timeout: 20_000 });
    await page.getByRole('button', { name: /^Stop/ }).waitFor();
    await page.waitForTimeout(2500);
    await page.getByRole('button', { name: /^Stop/ }).click();
    await page.waitForURL(/\/takes\//);
    takes.push(page.url().split('/').pop() ?? '');
  }
  await expect
    .poll(() => rows("select id from take where id = any($1) and state = 'ready'", [takes]), {
      timeout: 100_000,
    })
    .toHaveLength(2);

  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible({ timeout: 20_000 });
  const title = page.getByLabel('Title of step 1');
  await title.fill('What the gardener sees');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const list = page.getByRole('combobox', { name: 'Take', exact: true });
  await list.click();
  await page
    .locator('.ant-select-dropdown:visible')
    .getByText(/^First take/)
    .click();
  const asked = page.getByRole('dialog', { name: 'Replace the cut with the whole of First take?' });
  await expect(asked).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(title).toHaveValue('What the gardener sees');
  await list.click();
  await page
    .locator('.ant-select-dropdown:visible')
    .getByText(/^First take/)
    .click();
  await page.getByRole('button', { name: 'Replace the cut' }).click();
  await expect(title).toHaveValue('');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const saved = async () => {
    const [row] = await rows<{ document: { steps: { title: string; pieces: { take: string }[] }[] } }>(
      'select document from cut where lesson_id = $1',
      [lesson],
    );
    return row?.document.steps[0];
  };
  await expect.poll(async () => (await saved())?.pieces[0]?.take).toBe(takes[0]);

  await page.reload();
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(title).toHaveValue('What the gardener sees');
  await expect.poll(async () => (await saved())?.pieces[0]?.take).toBe(takes[1]);

  // And any version is restored from the list, which says what changed.
  await page.getByRole('button', { name: 'Versions' }).click();
  const versions = page.getByRole('dialog', { name: 'Versions of this cut' });
  await expect(versions.getByRole('cell', { name: 'Replaced by another take' }).first()).toBeVisible();
  await expect(versions.getByText('replaced', { exact: true }).first()).toBeVisible();
  await expectAccessible(page);
  await versions
    .getByRole('row')
    .last()
    .getByRole('button', { name: /^Restore/ })
    .click();
  await expect(title).toHaveValue('');
  await expect.poll(async () => (await saved())?.pieces[0]?.take).toBe(takes[1]);
});

test('a deleted take, parcel and lesson are in the bin with their sizes, and come back; for good they go only by hand', async ({
  studio: page,
}) => {
  const [made] = await recordEach(page, [{ ...CARD_RIG, camera: null }], 2000);
  const take = made?.takeId ?? '';
  const [row] = await rows<{ lesson_id: string; duration_us: string }>(
    'select lesson_id, duration_us from take where id = $1',
    [take],
  );
  const lesson = row?.lesson_id ?? '';
  const name = `Bin ${take.slice(0, 6)}`;
  await page.request.patch(`/api/lessons/${lesson}`, { data: { title: name } });
  const cut = defaultCut(newStepId(), {
    id: take as TakeId,
    durationUs: Number(row?.duration_us),
    camera: null,
    gains: { voiceDb: 0, appSoundDb: 0 },
  });
  await page.request.put(`/api/lessons/${lesson}/cut`, { data: { cut, revision: 0 } });
  const [destination] = DESTINATIONS;
  const parcel = await (
    await page.request.post(`/api/lessons/${lesson}/parcels`, { data: { destination } })
  ).json();
  await expect
    .poll(() => rows("select id from job where subject = $1 and state = 'done'", [parcel.id]), {
      timeout: 60_000,
    })
    .toHaveLength(1);

  await page.goto(`/lessons/${lesson}/hand-over`);
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText(/was moved to the bin/)).toBeVisible();
  await page.goto('/bin');
  const entry = (kind: string, title: string | RegExp) =>
    page.getByRole('row').filter({ hasText: kind }).filter({ hasText: name }).filter({ hasText: title });
  await expect(entry('Parcel', destination?.name ?? '-')).toContainText(/\d (kB|MB)/);
  await expectAccessible(page);
  await page
    .getByRole('button', { name: `Restore ${destination?.name}` })
    .first()
    .click();
  await expect(entry('Parcel', destination?.name ?? '-')).toBeHidden();
  await page.goto(`/lessons/${lesson}/hand-over`);
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();

  await page.goto(`/takes/${take}`);
  await page.getByRole('button', { name: 'Delete the take' }).click();
  await expect(page.getByText(/was moved to the bin/)).toBeVisible();
  await page.goto('/bin');
  await entry('Take', 'First take')
    .getByRole('button', { name: /^Restore/ })
    .click();
  await expect(entry('Take', 'First take')).toBeHidden();
  expect((await page.goto(`/takes/${take}`))?.status()).toBe(200);

  await page.goto('/');
  await page.getByRole('button', { name: `More for ${name}` }).click();
  await page.getByRole('menuitem', { name: 'Delete the lesson' }).click();
  await expect(page.getByRole('heading', { name })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await page.getByRole('button', { name: `More for ${name}` }).click();
  await page.getByRole('menuitem', { name: 'Delete the lesson' }).click();
  await expect(page.getByRole('heading', { name })).toBeHidden();
  await page.goto('/bin');
  await page.getByRole('button', { name: `Delete ${name} for good` }).click();
  expect(existsSync(takeFolder(take))).toBe(true);
  await page.getByRole('tooltip').getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByRole('row').filter({ hasText: name })).toHaveCount(0);
  expect(existsSync(takeFolder(take))).toBe(false);
  expect(await rows('select id from lesson where id = $1', [lesson])).toEqual([]);
});

async function setRate(page: Page, fps: string): Promise<void> {
  const rate = page.getByRole('spinbutton', { name: 'Custom frame rate' });
  if (await rate.isHidden()) await choose(page, 'Frame rate', 'Custom …');
  await rate.fill(fps);
  await rate.press('Enter');
}

test.describe('two tabs', () => {
  test.use({ refused: /409/ });

  test('the second tab that changes a lesson’s rig is told, and overwrites nothing unasked', {
    tag: AT_LENGTH,
  }, async ({ studio: page }) => {
    await armed(page, { ...CARD_RIG, camera: null });
    const lesson = lessonOf(page);
    const rate = async () => {
      const [row] = await rows<{ rig: { picture: { frameRate: { num: number } } } }>(
        'select rig from lesson where id = $1',
        [lesson],
      );
      return row?.rig.picture.frameRate.num;
    };
    await page.goto(`/lessons/${lesson}/set-up`);
    await stretch(page, 'Picture');
    const other = await page.context().newPage();
    await other.goto(`/lessons/${lesson}/set-up`);
    await stretch(other, 'Picture');
    await setRate(other, '15');
    await expect.poll(rate).toBe(15);
    await setRate(page, '10');
    await expect(page.getByText('The rig of this lesson was changed in another tab.')).toBeVisible();
    expect(await rate()).toBe(15);
    await page.getByRole('button', { name: 'Use the rig of this tab' }).click();
    await expect.poll(rate).toBe(10);
    await expect(page.getByText('The rig of this lesson was changed in another tab.')).toBeHidden();
    await other.close();
  });
});

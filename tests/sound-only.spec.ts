// Nothing but sound: no picture and no camera, in the rig, on every page and in the files.
import { join } from 'node:path';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { text } from './support/card-film';
import { rows } from './support/processes';
import { armed, choose, expect, expectAccessible, finished, lessonOf, recordFor } from './support/studio';
import { test } from './support/test';

test('sound only records sound only, and no page shows a picture', async ({ studio: page }) => {
  await armed(page, { ...PRACTICE_RIG, countdownS: 0 });
  const lesson = lessonOf(page);
  await page.getByRole('link', { name: 'Set up' }).first().click();
  await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible();
  await choose(page, 'Source', 'No picture, sound only');
  await expect(page.getByText('Sound only: there is no picture.').first()).toBeVisible();
  await expect(page.getByRole('img', { name: /^Live/ })).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText('Ready to record.');
  await expect(page.getByRole('tab', { name: /^Camera/ })).toContainText('none');
  for (const name of ['Camera', 'Encode', 'Capture area']) {
    await page.getByRole('tab', { name: new RegExp(`^${name}`) }).click({ position: { x: 24, y: 11 } });
    await expect(page.getByRole('tabpanel', { name })).toContainText('Sound only');
  }
  await expectAccessible(page);
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  const { folder } = await recordFor(page, 3000);
  await finished(page);
  const [row] = await rows<{ rig: { camera: unknown } }>('select rig from lesson where id = $1', [lesson]);
  expect(row?.rig.camera).toBeNull();
  const kinds = JSON.parse(
    await text('ffprobe', [
      ...['-v', 'error', '-show_entries', 'stream=codec_type', '-of', 'json'],
      join(folder, 'recorded.mkv'),
    ]),
  ).streams.map(({ codec_type }: { codec_type: string }) => codec_type);
  expect(kinds).toEqual(['audio', 'audio']);
  // The take's page has a player without a picture, and speaks of no frames.
  await expect(page.locator('.player canvas:visible')).toHaveCount(0);
  await expect(page.getByRole('link', { name: /^Plain sound/ })).toBeVisible();
  await expect(page.getByText(/frame rate|Dropped by the encoder/i)).toHaveCount(0);
  await expectAccessible(page);
  // Edit speaks of no picture either, and plays.
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  await expect(page.getByText('Sound only: there is no picture.')).toBeVisible();
  await expect(page.locator('.player canvas:visible')).toHaveCount(0);
  await expect(page.getByRole('radio')).toHaveCount(0);
  await page.keyboard.press('l');
  await expect
    .poll(async () => Number(await page.locator('.player').getAttribute('data-position')))
    .toBeGreaterThan(500_000);
  await expectAccessible(page);
});

// Choosing: from a purpose, with reasons, on measured figures, kept under a name.
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { PRACTICE_RIG } from '@/core/rig/rig';
import begin from './support/begin';
import { rows } from './support/processes';
import { choose, expect, expectAccessible, stretch } from './support/studio';
import { AT_LENGTH, test } from './support/test';

test.afterEach(begin);

const verdict = (page: Page) => page.getByRole('region', { name: 'Verdict' });
const lessonOf = (page: Page) => page.url().split('/')[4] ?? '';
const storedRig = async (page: Page) =>
  (await rows<{ rig: typeof PRACTICE_RIG }>('select rig from lesson where id = $1', [lessonOf(page)]))[0]
    ?.rig;

test('a rig is proposed for a purpose with its reasons, changed, restored, named, compared, and read from its file', async ({
  studio: page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await expect(page.getByRole('img', { name: 'Live picture' })).toBeVisible();
  await page.getByRole('button', { name: 'Change the rig' }).click();
  await page.getByRole('radio', { name: /^A lesson with small text/ }).click();
  await expect(page.getByText('All values are as proposed, each with its reason.')).toBeVisible();
  await expectAccessible(page);
  await stretch(page, 'Picture');
  const reason = page.getByText('15 fps is usual for software lessons.');
  await expect(reason).toBeVisible();
  await choose(page, 'Frame rate', '25');
  await expect(reason).toBeHidden();
  await page.getByRole('button', { name: 'Change the rig' }).click();
  await page.getByRole('button', { name: 'Frame rate as proposed' }).click();
  await expect.poll(async () => (await storedRig(page))?.picture.frameRate).toEqual({ num: 15, den: 1 });

  const name = `Small text ${Date.now()}`;
  await page.getByRole('textbox', { name: 'Name for this rig' }).fill(name);
  await page.getByRole('button', { name: 'Save rig' }).click();
  await expect(page.getByText(name)).toBeVisible();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export this rig' }).click();
  const file = await (await saved).path();
  const kept = JSON.parse(readFileSync(file, 'utf8'));
  expect(kept.rig).toEqual(await storedRig(page));
  const schema = await (await page.request.get('/api/rigs/schema')).json();
  expect(Object.keys(schema.properties.rig.properties).sort()).toEqual(Object.keys(kept.rig).sort());

  // A file that says something impossible is refused for its reason and changes nothing.
  const upload = (json: object) => ({
    name: 'mine.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(json)),
  });
  const wrong = { ...kept, rig: { ...kept.rig, countdownS: 99 } };
  await page.getByLabel('Rig file').setInputFiles(upload(wrong));
  await expect(page.getByText(/mine\.json: rig\.countdownS/)).toBeVisible();
  // One of the first version is brought to the present one.
  const { purpose: _, names: __, ...old } = kept.rig;
  const { keyframeEvery: ___, ...picture } = old.picture;
  const first = {
    ...old,
    version: 1,
    countdownS: 5,
    picture: { ...picture, codec: 'vp9', keyframeEveryS: 3 },
  };
  await page.getByLabel('Rig file').setInputFiles(upload({ name: 'Older', rig: first }));
  await expect
    .poll(async () => (await storedRig(page))?.picture.keyframeEvery)
    .toEqual({ unit: 'seconds', value: 3 });
  expect((await storedRig(page))?.version).toBe(3);

  await page.getByRole('listitem').filter({ hasText: name }).getByRole('link', { name: 'Compare' }).click();
  const table = page.getByRole('region', { name: /choices differ/ });
  await expect(table.getByRole('row', { name: /^Keyframe interval 3 s 2 s/ })).toBeVisible();
  await expect(table.getByRole('row', { name: /^Codec VP9 automatic/ })).toBeVisible();
  await expectAccessible(page);
  const row = page.getByRole('listitem').filter({ hasText: name });
  await row.getByRole('button', { name: 'Use for new lessons' }).click();
  await expect(row.getByRole('button', { name: 'Default for new lessons' })).toBeVisible();
  await page.getByRole('link', { name: /all lessons/ }).click();
  await page.getByRole('button', { name: 'New lesson', exact: true }).click();
  await page.waitForURL(/set-up/);
  expect((await storedRig(page))?.purpose).toEqual({ kind: 'lesson', machine: 'strong' });
});

test('encoders and bitrates are measured here, the flow follows every choice, and a click fixes what was found', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const made = await page.request.post('/api/lessons', { data: { title: 'Measured' } });
  const { id } = await made.json();
  // Scaled to two thirds at 30 fps, whatever was recorded here last.
  await page.request.patch(`/api/lessons/${id}`, { data: { rig: PRACTICE_RIG } });
  await page.goto(`/lessons/${id}/set-up`);
  await stretch(page, 'Encode');
  // Unasked, once nothing was changed for three seconds.
  await expect(page.getByText(/^Measured here; bitrates on [1-9]\d* frames?/)).toBeVisible({
    timeout: 60_000,
  });
  for (const codec of ['H.264', 'VP9', 'AV1'])
    await expect(page.locator('.bar').filter({ has: page.locator('b', { hasText: codec }) })).toContainText(
      /\d+ fps \(target 30\)/,
    );
  const crops = page.getByRole('group', { name: 'Text before and after encoding, at pixel scale' });
  await expect(crops.getByRole('img')).toHaveCount(3);
  await expect(crops.locator('figcaption')).toHaveText([
    'Before: as captured',
    /^After: [\d.]+ [kM]b\/s$/,
    /^Lowest tested: \d+ kb\/s$/,
  ]);
  // A pixel for a pixel; there is text, dark on light; and the one that broke up is farther from what was captured than the one before.
  const looks = await crops.locator('canvas').evaluateAll((all) =>
    (all as HTMLCanvasElement[]).map((canvas) => {
      const { data } = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height) ?? {};
      const luma = Array.from({ length: (data?.length ?? 0) / 4 }, (_, i) => data?.[4 * i + 1] ?? 0);
      const edges = luma.filter((value, i) => i > 0 && Math.abs(value - (luma[i - 1] ?? 0)) > 60).length;
      return { scale: canvas.getBoundingClientRect().width / canvas.width, edges, luma };
    }),
  );
  for (const { scale } of looks) expect(scale).toBeCloseTo(1, 1);
  expect(looks[0]?.edges).toBeGreaterThan(50);
  const apart = (n: number) =>
    (looks[n]?.luma ?? []).reduce((sum, value, i) => sum + Math.abs(value - (looks[0]?.luma[i] ?? 0)), 0);
  expect(apart(2)).toBeGreaterThan(apart(1));
  await expectAccessible(page);

  // The flow's table says the same as its drawing; a constant bitrate moves it at once.
  const file = page
    .getByRole('table', { name: 'The flow from the sources to the disk' })
    .getByRole('row', { name: /^File/ });
  const before = await file.textContent();
  const slider = page.getByRole('slider', { name: 'Bitrate' });
  await slider.focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('PageDown');
  await expect(file).not.toHaveText(before ?? '');
  await expect.poll(async () => (await storedRig(page))?.picture.bitrateKbps).toBeLessThan(4000);

  // By keyboard along the stretches.
  await page.getByRole('tab', { name: /^Encode/ }).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('combobox', { name: 'Picture size' })).toBeVisible();
  await expectAccessible(page);

  // Scaled to two thirds: the verdict's button takes it one to one.
  await expect(verdict(page)).toContainText('Text will look softer: the picture is scaled to 67 %.');
  await verdict(page).getByRole('button', { name: 'Record one to one, 1920 × 1080' }).click();
  await expect(verdict(page)).not.toContainText('softer');
  // A level that cannot hold it stops; its fix lets go on.
  await stretch(page, 'Encode');
  await choose(page, 'H.264 level', '3.1');
  await expect(verdict(page)).toContainText('H.264 level 3.1 does not allow a picture of 1920 × 1080.');
  await expect(verdict(page).getByRole('link', { name: 'Record' })).toBeHidden();
  await expect(verdict(page).getByRole('button', { name: 'Record', exact: true })).toBeDisabled();
  await verdict(page)
    .getByRole('button', { name: /^Use level 4\.0/ })
    .click();
  await expect(verdict(page).getByRole('link', { name: 'Record' })).toBeVisible();
  await stretch(page, 'Picture');
  // A number of several digits is taken as a whole, and one that is not allowed not at all.
  await choose(page, 'Frame rate', 'Custom …');
  const rate = page.getByRole('spinbutton', { name: 'Custom frame rate' });
  await rate.click();
  await rate.press('Control+a');
  await rate.pressSequentially('23.976');
  await rate.press('Enter');
  await expect
    .poll(async () => (await storedRig(page))?.picture.frameRate)
    .toEqual({ num: 24_000, den: 1001 });
  await rate.fill('900');
  await rate.blur();
  await expect(rate).toHaveValue('23.976');
  await choose(page, 'Speed', '10× time-lapse');
  await expect(verdict(page)).toContainText('No sound will be recorded');
  await expect(
    page.getByText('One hour becomes 6 min of video, without sound.', { exact: false }),
  ).toBeVisible();
});

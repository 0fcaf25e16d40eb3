import { FIRST_RIG } from '@/core/rig/purposes';
import { choose, expect, finished, recordFor, storedFiles, stretch } from './support/studio';
import { test } from './support/test';

test('from the lessons to a watched take in five clicks, then renamed, deleted and brought back', async ({
  studio: page,
}) => {
  // A lesson that nobody recorded for yet: one with takes opens at what it was left for.
  const title = `Weigh a sowing, ${Date.now()}`;
  const made = await page.request.post('/api/lessons', { data: { title } });
  // What a new studio begins with, whatever was recorded here last.
  await page.request.patch(`/api/lessons/${(await made.json()).id}`, { data: { rig: FIRST_RIG } });
  await page.goto('/');
  let clicks = 0;
  const click = async (locator: ReturnType<typeof page.getByRole>) => {
    clicks++;
    await locator.click();
  };
  const lesson = page.getByRole('article').filter({ hasText: title });
  await click(lesson.getByRole('link').first());
  await expect(page.getByRole('img', { name: 'Live picture' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText('Ready to record.');
  await click(page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }));
  // Meters are on the page before as well.
  await page.waitForURL(/\/record$/);
  await expect(page.getByRole('meter', { name: 'Voice level' })).toBeVisible();
  await click(page.getByRole('button', { name: 'Record R', exact: true }));
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible({ timeout: 15_000 });
  await page.waitForTimeout(3000);
  await click(page.getByRole('button', { name: /^Stop/ }));
  await page.waitForURL(/\/takes\//);
  const player = page.locator('.player');
  // Watchable at once, before finishing has made anything.
  await expect(player).toHaveAttribute('data-loaded', 'true', { timeout: 20_000 });
  await finished(page);
  await expect(player).toHaveAttribute('data-loaded', 'true');
  await click(page.getByRole('button', { name: /^Play/ }));
  await expect
    .poll(async () => Number(await player.getAttribute('data-position')), { timeout: 15_000 })
    .toBeGreaterThan(1_500_000);
  expect(clicks).toBe(5);
  // A stage that left something is ticked, on every page alike.
  const stages = page.getByRole('navigation', { name: 'Stages of the lesson' });
  const ticked = ['Set up (done)', 'Rehearse', 'Record (done)', 'Edit', 'Hand over'];
  await expect(stages.getByRole('link')).toHaveText(ticked);
  await page.keyboard.press('k');
  const before = Number(await player.getAttribute('data-position'));
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => Number(await player.getAttribute('data-position'))).not.toBe(before);

  await page.getByRole('button', { name: 'Rename the take' }).click();
  await page.getByLabel('Name of the take').fill('The good one');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'The good one' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete the take' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: 'The good one' })).toBeVisible();
  // The page also stands by its address alone.
  expect((await page.reload())?.status()).toBe(200);
  await expect(page.getByRole('heading', { name: 'The good one' })).toBeVisible();
  // What it came to stands in the flow now, where there was an estimate before.
  await page.getByRole('link', { name: 'Set up' }).first().click();
  await expect(page.getByText('measured in the last take')).toBeVisible();
  await page.goto('/');
  await expect(lesson.getByText(/The good one, 0:0\d long, with camera/)).toBeVisible();
  // The takes of the demo came in like any other and were finished.
  for (const shipped of ['Plan a bed rotation', 'Read the germination log']) {
    // Lessons of other tests may have put it on another page of the list.
    await page.getByLabel('Find a lesson or a take').fill(shipped);
    await expect(
      page
        .getByRole('article')
        .filter({ hasText: shipped })
        .getByRole('img', { name: /Last frame/ }),
    ).toBeVisible();
  }
});

test('pausing leaves no gap, starting over leaves nothing, and leaving a recording is asked about', async ({
  studio: page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await stretch(page, 'Camera');
  await choose(page, 'Device', 'No camera');
  await stretch(page, 'File');
  await page.getByText('Off', { exact: true }).click();
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  await page.getByRole('button', { name: 'Record R', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  await page.getByRole('link', { name: /all lessons/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Stay' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  const over = page.getByRole('button', { name: /^Start over/ });
  await over.hover();
  await page.mouse.down();
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 15_000 });
  await page.mouse.up();
  const journalled = () =>
    page.evaluate(async () => {
      const names: string[] = [];
      const root = await (await navigator.storage.getDirectory()).getDirectoryHandle('journal-2', {
        create: true,
      });
      for await (const [name] of root) names.push(name);
      return names;
    });
  await expect.poll(journalled).toEqual([]);
  // Nothing of it is left on the server either: the next take is the first.

  const { folder } = await recordFor(page, 1500, async () => {
    await page.waitForTimeout(1500);
    await page.keyboard.press('p');
    await expect(page.getByText('Paused.', { exact: true })).toBeVisible();
    await page.waitForTimeout(2000);
    await page.keyboard.press('p');
  });
  await finished(page);
  // Three seconds were recorded, two were not; the picture was copied, not encoded again.
  await expect(page.getByText(/0:0[34] long/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'First take' })).toBeVisible();
  expect(storedFiles(folder)).toEqual(
    [
      '*.index',
      '*.index',
      '*.index',
      '*.index',
      '*.media',
      '*.media',
      '*.media',
      '*.media',
      'peaks.json',
      'plain.mp4',
      'recorded.mkv',
      'take.json',
      'thumbnail.jpg',
    ].sort(),
  );
  await expect.poll(journalled).toEqual([]);
});

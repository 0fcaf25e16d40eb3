// What misleads a newcomer, or costs trust: each way is gone as somebody goes it who has only read the README.
import { join } from 'node:path';
import { UNTREATED } from '@/core/audio/treatment';
import { frameOutcome } from '@/core/recording/frame-outcome';
import type { FrameLedger } from '@/core/recording/take';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { text } from './support/card-film';
import { dataDir, rows } from './support/processes';
import { armed, expect, finished, lessonOf, recordFor, startRecording, stretch } from './support/studio';
import { AT_LENGTH, test } from './support/test';

const rigOf = async (lesson: string) =>
  (await rows<{ rig: Rig }>('select rig from lesson where id = $1', [lesson]))[0]?.rig;
const SHORT: Rig = { ...PRACTICE_RIG, countdownS: 0 };

test('a recording asks for nothing that is not there, and its link says that it was copied', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const failed: string[] = [];
  page.context().on('response', (response) => {
    if (response.status() >= 400)
      failed.push(`${response.status()} ${response.request().method()} ${response.url()}`);
  });
  const voice = SHORT.voice && { ...SHORT.voice, gainDb: 3 };
  const picture = { ...SHORT.picture, box: null, frameRate: { num: 60, den: 1 } };
  await armed(page, { ...SHORT, voice, picture });
  const { takeId } = await recordFor(page, 3000);
  await finished(page);
  expect(failed).toEqual([]);
  // One sentence answers whether it is what was asked for, whatever this machine can do.
  const [taken] = await rows<{ ledger: { screen: FrameLedger } }>('select ledger from take where id = $1', [
    takeId,
  ]);
  if (!taken) throw new Error('There is no such take.');
  expect(taken.ledger.screen.askedFps).toBe(60);
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText(
    frameOutcome(taken.ledger.screen).sentence,
  );
  // The gain that was chosen is told with the take, as Edit tells it.
  await expect(page.getByRole('region', { name: 'The take' })).toContainText('gain +3 dB');
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.getByRole('button', { name: 'Make a link' }).click();
  await page.getByRole('button', { name: 'Copy link' }).click();
  await expect(page.getByRole('button', { name: 'Copied' })).toBeVisible();
  const link = await page.locator('.share-link a').getAttribute('href');
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(link);
  await expect(page.getByRole('button', { name: 'Copy link' })).toBeVisible();
  await page.getByRole('link', { name: 'Edit' }).first().click();
  await page.getByRole('tab', { name: 'Sound' }).click();
  await expect(page.getByRole('group', { name: 'Voice gain' })).toContainText('+3 dB');
});

test('a tab may record as soon as the other one has ended', { tag: AT_LENGTH }, async ({ studio: page }) => {
  await armed(page, { ...SHORT, camera: null });
  await startRecording(page);
  const other = await page.context().newPage();
  await armed(other, { ...SHORT, camera: null });
  await other.getByRole('button', { name: 'Record R', exact: true }).click();
  const refusal = other.getByText('Another tab of this browser is recording.');
  await expect(refusal).toBeVisible();
  await page.bringToFront();
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.waitForURL(/\/takes\//);
  await other.bringToFront();
  await expect(refusal).toBeHidden();
  await startRecording(other);
  await other.getByRole('button', { name: /^Stop/ }).click();
  await other.waitForURL(/\/takes\//);
});

test('a new lesson begins with the default; what was recorded with last is offered, and taken over only when asked', async ({
  studio: page,
}) => {
  await armed(page, { ...SHORT, camera: null, plannedLengthS: 240 });
  const { takeId } = await recordFor(page, 1500);
  // Other tests record meanwhile: this take stays the last one.
  await rows(`update take set started_at = now() + interval '1 minute' where id = $1`, [takeId]);
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await page.waitForURL(/\/set-up$/);
  const lesson = lessonOf(page);
  expect((await rigOf(lesson))?.plannedLengthS).toBeNull();
  expect((await rigOf(lesson))?.camera).not.toBeNull();
  await page.getByRole('button', { name: 'Use last rig' }).click();
  await expect.poll(async () => (await rigOf(lesson))?.plannedLengthS).toBe(240);
  expect((await rigOf(lesson))?.camera).toBeNull();
  await expect(page.getByRole('button', { name: 'Use last rig' })).toBeHidden();
});

test('a value out of its range is refused with the range, and a title says how long it may be', async ({
  studio: page,
}) => {
  await armed(page, SHORT);
  await page.getByRole('link', { name: 'Set up' }).first().click();
  await stretch(page, 'Voice');
  const gain = page.getByRole('spinbutton', { name: 'Voice gain' });
  const before = await gain.inputValue();
  await gain.fill('99');
  await gain.press('Enter');
  await expect(page.getByText(`Enter a number from −60 to 12. ${before} is kept.`)).toBeVisible();
  await expect(gain).toHaveValue(before);
  await page.getByRole('button', { name: 'Rename the lesson' }).click();
  const title = page.getByRole('textbox', { name: 'Name of the lesson' });
  await title.fill('a'.repeat(230));
  await expect(title).toHaveValue('a'.repeat(200));
  await expect(page.getByText('200 of 200 characters')).toBeVisible();
  await title.press('Escape');
});

test('the keyed background stays away in every layout, where it can be changed too', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const camera = SHORT.camera && {
    ...SHORT.camera,
    source: { from: 'practice' as const, id: 'presenter-green' as const },
    place: {
      ...SHORT.camera.place,
      key: { colour: '#3fae62', tolerance: 0.08, softness: 0.08, spill: 0.5 },
    },
  };
  await armed(page, { ...SHORT, camera });
  const lesson = lessonOf(page);
  await recordFor(page, 2500);
  await finished(page);
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  const layout = async () =>
    (
      await rows<{
        document: { steps: { layout: { kind: string; key?: { colour: string } | null; camera?: string } }[] };
      }>('select document from cut where lesson_id = $1', [lesson])
    )[0]?.document.steps[0]?.layout;
  /** Share of the canvas that has the wall's green. */
  const green = () =>
    page.locator('.player canvas').evaluate((canvas: HTMLCanvasElement) => {
      const pen = new OffscreenCanvas(160, 90).getContext('2d');
      pen?.drawImage(canvas, 0, 0, 160, 90);
      const { data = [] } = pen?.getImageData(0, 0, 160, 90) ?? {};
      let count = 0;
      for (let i = 0; i < data.length; i += 4)
        if ((data[i + 1] ?? 0) > 140 && (data[i] ?? 0) < 110 && (data[i + 2] ?? 0) < 130) count++;
      return count / (160 * 90);
    });
  for (const [name, kind] of [
    ['Side by side', 'side-by-side'],
    ['Camera', 'camera'],
  ] as const) {
    await page
      .locator('.layout-pebbles label')
      .filter({ hasText: new RegExp(`^${name}$`) })
      .click();
    await expect.poll(async () => (await layout())?.kind).toBe(kind);
    expect((await layout())?.key?.colour).toBe('#3fae62');
    await page.locator('.player[data-exact=true]').waitFor();
    await expect.poll(green).toBeLessThan(0.01);
  }
  await page.getByRole('button', { name: 'Camera look' }).click();
  await page.getByText('Kept', { exact: true }).click();
  await expect.poll(async () => (await layout())?.key).toBeNull();
  await expect.poll(green).toBeGreaterThan(0.1);
});

test('a removed stretch leaves a joint; steps are called by their place, become chapters, and an older parcel says so', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, SHORT);
  const lesson = lessonOf(page);
  await recordFor(page, 6000);
  await finished(page);
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  const at = async (code: string) => {
    const place = page.getByRole('textbox', { name: 'Time code' });
    await place.fill(code);
    await place.press('Enter');
  };
  await at('0:01:00');
  await page.getByRole('button', { name: /^Mark in/ }).click();
  await at('0:02:00');
  await page.getByRole('button', { name: /^Mark out/ }).click();
  await expect(
    page.getByText('Selection: 0:01:00 to 0:02:00 (1.0 s). Delete it or trim to it.'),
  ).toBeVisible();
  await page.getByRole('button', { name: /^Delete/ }).click();
  await expect(page.locator('.joint')).toHaveAttribute('title', '1.0 s deleted here');
  // One frame back is one frame, whether anything moved or not.
  await at('0:02:01');
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('textbox', { name: 'Time code' })).toHaveValue('0:02:00');
  for (const code of ['0:03:00', '0:01:15']) {
    await at(code);
    await page.getByRole('button', { name: /^Split here/ }).click();
  }
  await expect(page.getByRole('heading', { name: /^3 steps/ })).toBeVisible();
  const titles = page.getByRole('textbox', { name: /^Title of step/ });
  await expect(titles.nth(2)).toHaveAttribute('placeholder', 'Step 3');
  await titles.nth(1).fill('Sow = wait; water #1');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();

  await page.goto(`/lessons/${lesson}/hand-over`);
  await page.getByRole('button', { name: /^Make it for/ }).click();
  const parcel = page.getByRole('listitem').filter({ hasText: 'rules met' });
  await expect(parcel).toBeVisible({ timeout: 90_000 });
  await expect(parcel).toContainText(/\d{2}:\d{2}, 0:0\d, 3 steps/);
  await expect(parcel).not.toContainText('Made before');
  const [row] = await rows<{ id: string; name: string }>(
    `select id, facts->'files'->0->>'name' as name from parcel where lesson_id = $1`,
    [lesson],
  );
  const file = join(dataDir(), 'media', 'parcels', row?.id ?? '', row?.name ?? '');
  const probed = JSON.parse(await text('ffprobe', ['-v', 'error', '-show_chapters', '-of', 'json', file]));
  expect(probed.chapters.map(({ tags }: { tags: { title: string } }) => tags.title)).toEqual([
    'Step 1',
    'Sow = wait; water #1',
    'Step 3',
  ]);
  expect(Number(probed.chapters[1].start_time)).toBeCloseTo(1.5, 1);
  // So they are on the link's page, and lead there.
  await parcel.getByRole('button', { name: 'Make a link' }).click();
  const guest = await page.context().newPage();
  await guest.goto((await parcel.locator('.share-link a').getAttribute('href')) ?? '');
  await guest.getByRole('button', { name: /Sow = wait; water #1/ }).click();
  const playedS = () => guest.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime);
  await expect.poll(playedS, { timeout: 15_000 }).toBeGreaterThanOrEqual(1.5);
  await guest.close();
  // Opened, it is in sight; after another edit it says that it is older.
  await parcel.getByRole('button', { name: 'Open', exact: true }).click();
  await expect(parcel.locator('.opened-parcel')).toBeInViewport();
  await page.goto(`/lessons/${lesson}/edit`);
  await titles.nth(0).fill('Begin');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.goto(`/lessons/${lesson}/hand-over`);
  await expect(parcel).toContainText('Made before your last edit');
});

test('whoever is watching goes on watching when a take’s processed voice is ready', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const voice = SHORT.voice && {
    ...SHORT.voice,
    treated: 'afterwards' as const,
    treatment: { ...UNTREATED, highPassHz: 80 },
  };
  await armed(page, { ...SHORT, voice });
  await recordFor(page, 9000);
  const player = page.locator('.player[data-loaded=true]');
  await expect(player).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: /^Play/ }).click();
  // Every place that is shown while it is finished, and whether it plays.
  const seen: number[] = [];
  const processed = page.waitForRequest(/voice\.mka/, { timeout: 60_000 });
  const until = Date.now() + 60_000;
  while (Date.now() < until) {
    seen.push(Number(await page.locator('.player').getAttribute('data-position')));
    if (seen.at(-1) === 0 && seen.length > 40) break;
    if ((seen.at(-1) ?? 0) > 8_000_000) break;
    await page.waitForTimeout(100);
  }
  expect(seen.at(-1)).toBeGreaterThan(8_000_000);
  await processed;
  // It only ever goes on, but for what passes while a new picture is made.
  for (const [i, us] of seen.entries()) expect(us).toBeGreaterThan((seen[i - 1] ?? 0) - 500_000);
});

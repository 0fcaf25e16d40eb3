// From a take to a file that a place takes, and to a link: what is delivered is what was cut and seen.
import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { type Cut, cutLengthUs } from '@/core/cut/cut';
import { DESTINATIONS } from '@/core/destination/destination';
import { PRACTICE_RIG } from '@/core/rig/rig';
import type { ParcelPlan } from '@/core/views/parcel';
import { text } from './support/card-film';
import { complaints } from './support/kept';
import { plantedLesson } from './support/planted';
import { dataDir, rows } from './support/processes';
import { armed, expect, expectAccessible, finished, lessonOf, misbehave, recordFor } from './support/studio';
import { AT_LENGTH, test } from './support/test';

// Encoders take their time on a busy machine.
test.describe.configure({ timeout: 300_000 });

/** Adds a destination by its file: a message attachment with other rules. */
const addDestination = (page: Page, rules: object) =>
  page.getByLabel('Destination file').setInputFiles({
    name: 'destination.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify({ ...DESTINATIONS[3], ...rules })),
  });

test('of a destination that takes next to nothing it is said before anything is made', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const { lesson } = await plantedLesson(page, 'Next to nothing');
  await page.goto(`/lessons/${lesson}/hand-over`);
  await expect(page.getByRole('button', { name: /^Make it for/, disabled: false })).toBeVisible();
  await addDestination(page, { id: 'tiny', name: 'Tiny', maxBytes: 30_000 });
  await expect(page.getByText(/^Nothing readable fits in 30 kB: shorten the video, or choose/)).toBeVisible({
    timeout: 60_000,
  });
});

test('a quick answer: recorded, both ends trimmed, a part deleted, sent as an attachment and by a link that is revoked', async ({
  studio: page,
}) => {
  await armed(page, { ...PRACTICE_RIG, countdownS: 0 });
  const lesson = lessonOf(page);
  await misbehave(page, 'voice', { kind: 'silent' });
  const { folder } = await recordFor(page, 2000, async () => {
    await page.waitForTimeout(2000);
    await page.keyboard.press('m');
    await misbehave(page, 'voice', null);
    await page.waitForTimeout(7000);
    await misbehave(page, 'voice', { kind: 'silent' });
  });
  // A take's link is there at once, and shows whatever can be watched already.
  await page.getByRole('button', { name: 'Make a link' }).click();
  const early = await page.context().newPage();
  await early.goto((await page.locator('.share-link a').getAttribute('href')) ?? '');
  // Asked within the page, which may reload meanwhile.
  await early.waitForFunction(() => (document.querySelector('video')?.readyState ?? 0) >= 2, null, {
    timeout: 20_000,
  });
  await early.close();
  await finished(page);
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  await page.getByRole('button', { name: /^Trim both ends/ }).click();
  for (let i = 0; i < 15; i++) await page.keyboard.press('ArrowRight');
  await page.locator('.player[data-exact=true]').waitFor();
  await page.keyboard.press('i');
  await page.keyboard.press('Shift+ArrowRight');
  await page.locator('.player[data-exact=true]').waitFor();
  await page.keyboard.press('o');
  await page.keyboard.press('x');
  await expect
    .poll(
      async () =>
        (await rows<{ document: Cut }>('select document from cut where lesson_id = $1', [lesson]))[0]
          ?.document.steps[0]?.pieces.length,
    )
    .toBe(2);
  const [row] = await rows<{ document: Cut }>('select document from cut where lesson_id = $1', [lesson]);
  const lengthUs = cutLengthUs(row?.document as Cut);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  // What Edit has just left is ticked at once, and on the next stage as well.
  await expect(page.getByRole('link', { name: 'Edit (done)' })).toBeVisible();

  await page.getByRole('link', { name: 'Hand over', exact: true }).first().click();
  await expect(page.getByRole('link', { name: 'Edit (done)' })).toBeVisible();
  // A filter is chosen only where something is scaled.
  const video = { ...DESTINATIONS[3]?.video, box: { width: 640, height: 360 } };
  await addDestination(page, { id: 'small', name: 'Small player', video });
  await expect(page.getByText('Downscaling filter')).toBeVisible();
  await page.getByRole('radio', { name: /Course platform/ }).check({ force: true });
  await expect(page.getByText(/^AV1, CRF \d+, keyframes every 10 s, /)).toBeVisible();
  await page.getByRole('radiogroup', { name: 'Video codec' }).getByText('H.264').click();
  await expect(page.getByText(/^H\.264, CRF \d+, keyframes every 8 s, /)).toBeVisible();
  await page.getByRole('radio', { name: /Message attachment/ }).check({ force: true });
  await expect(page.getByText(/^About .* for 0:\d\d, between .* and /)).toBeVisible();
  await expect(page.getByText('Downscaling filter')).toBeHidden();
  // A destination that takes two codecs leaves the choice; one that takes one does not.
  await expect(page.getByRole('radiogroup', { name: 'Video codec' })).toBeHidden();
  // So short a video is encoded before its size is told: then the range is narrow.
  await expect(
    page.getByText(
      /^Size: (measured by encoding all of it once|extrapolated from all of it, encoded once at CRF 27)\.$/,
    ),
  ).toBeVisible({
    timeout: 60_000,
  });
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Make it for “Message attachment”/ }).click();
  await expect(page.getByRole('region', { name: 'Parcels' }).getByRole('listitem').first()).toBeInViewport();
  await expect(page.getByText(/^All 1\d rules met\./)).toBeVisible({ timeout: 120_000 });
  const [parcel] = await rows<{ id: string }>('select id from parcel where lesson_id = $1', [lesson]);
  const file = join(dataDir(), 'media', 'parcels', parcel?.id ?? '', 'video.mp4');
  const { size } = statSync(file);
  expect(size).toBeLessThanOrEqual(2_000_000);
  const [{ plan } = { plan: null }] = await rows<{ plan: ParcelPlan }>(
    'select plan from parcel where id = $1',
    [parcel?.id],
  );
  const { from = 0, to = 0 } = plan?.expected ?? {};
  expect(to / from).toBeLessThan(1.6);
  expect(size).toBeGreaterThan(from);
  expect(size).toBeLessThan(to);
  const probed = JSON.parse(
    await text('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', file]),
  );
  expect(probed.streams.map(({ codec_name }: { codec_name: string }) => codec_name)).toEqual(['h264', 'aac']);
  expect(Math.abs(Number(probed.streams[0].duration) * 1e6 - lengthUs)).toBeLessThan(35_000);
  expect(await complaints(file)).toBe('');
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await expect(page.getByText(/0\.99\d\d, worst frame 0\.9\d\d\d: clear/)).toBeVisible();
  await expectAccessible(page);
  // Other tests may be making parcels of their own meanwhile.
  const making = readdirSync(join(dataDir(), 'media', 'making'));
  expect(making.filter((name) => name.startsWith(`${parcel?.id}.`))).toEqual([]);

  // Any other file can be asked about: this one has four tracks in a container that the place does not take.
  await page.getByLabel('File to check').setInputFiles(join(folder, 'recorded.mkv'));
  await expect(page.getByText(/[1-9]\d* of \d+ rules not met\./)).toBeVisible({ timeout: 30_000 });
  expect(readdirSync(join(dataDir(), 'media', 'inspected'))).toEqual([]);

  // The link: a page of its own on an address of its own, which knows nothing else.
  await page.getByRole('button', { name: 'Make a link' }).click();
  const url = (await page.locator('.share-link a').getAttribute('href')) ?? '';
  expect(new URL(url).host).not.toBe(new URL(process.env.BASE_URL ?? '').host);
  const guest = await page.context().newPage();
  await guest.goto(url);
  await expect(guest.getByRole('heading', { name: 'Fault' })).toBeVisible();
  await expectAccessible(guest);
  // On a phone it is as wide as the window, and nothing lies outside.
  await guest.setViewportSize({ width: 390, height: 800 });
  const shown = await guest.locator('video').boundingBox();
  expect(shown?.width).toBeGreaterThan(340);
  expect(await guest.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  await guest.setViewportSize({ width: 1280, height: 800 });
  await guest.keyboard.press('Space');
  const playedS = () => guest.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime);
  await expect.poll(playedS, { timeout: 15_000 }).toBeGreaterThan(0.5);
  await guest.keyboard.press('k');
  await guest.keyboard.press('Home');
  await expect.poll(playedS).toBe(0);
  // An arrow is a frame, there and back; with Shift five seconds, or the end.
  await guest.keyboard.press('ArrowRight');
  await expect.poll(playedS).toBeGreaterThan(0);
  expect(await playedS()).toBeLessThan(0.11);
  await guest.keyboard.press('Shift+ArrowRight');
  await expect.poll(playedS).toBeGreaterThan(1);
  // J plays backwards to the start.
  for (let i = 0; i < 4; i++) await guest.keyboard.press('j');
  await expect.poll(playedS, { timeout: 15_000 }).toBe(0);
  await guest.close();
  const part = await page.request.get(`${url}/video`, { headers: { Range: 'bytes=100-199' } });
  expect([part.status(), (await part.body()).length]).toEqual([206, 100]);
  expect(part.headers()['x-robots-tag']).toContain('noindex');
  for (const path of ['/', '/api/health', '/lessons', '/s/', `/s/${parcel?.id}/video`, '/s/../api/lessons'])
    expect((await page.request.get(new URL(path, url).href)).status(), path).toBe(404);
  expect((await page.request.post(url)).status()).toBe(405);
  await page.getByRole('button', { name: 'Revoke link' }).click();
  await expect(page.getByText('It stops working at once')).toBeVisible();
  await page.getByRole('tooltip').getByRole('button', { name: 'Revoke link' }).click();
  await expect(page.getByRole('button', { name: 'Make a link' })).toBeVisible();
  for (const address of [url, `${url}/video`, `${url}/state`])
    expect((await page.request.get(address)).status(), address).toBe(404);
});

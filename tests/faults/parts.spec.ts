// What is inside the recorder fails: encoders, muxers, files. The take goes on, whole but for what is counted, and says so.

import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { missingNumbers, readCardFilm, samplesOf } from '../support/card-film';
import { complaints, differing, keptTracks, type Ledger, ledgerOf } from '../support/kept';
import { rows } from '../support/processes';
import {
  armed,
  breakPart,
  CARD_RIG,
  expect,
  finished,
  misbehave,
  recordFor,
  startRecording,
  takeOpened,
} from '../support/studio';
import { AT_LENGTH, test } from '../support/test';

/** Both pictures of the test card’s rig have 30 frames per second. */
const FRAME_US = 1e6 / 30;

const ALL = ['screen', 'camera', 'voice', 'app-sound'] as const;

/** Nothing is locked any more that belongs to a recording. */
const heldLocks = (page: Page) =>
  page.evaluate(async () => {
    const { held = [] } = await navigator.locks.query();
    return held.map(({ name }) => name).filter((name) => name === 'recording' || name?.startsWith('take:'));
  });

/**
 * Every picture has a fate, and no more numbers are missing in what was recorded than are counted.
 * @param within each segment alone: a source that changes its size does not count what it leaves out meanwhile
 */
async function expectAccounted(takeId: string, folder: string, within = false): Promise<Ledger> {
  const ledger = await ledgerOf(takeId);
  const { screen } = ledger;
  expect(screen.arrived).toBe(screen.encoded + screen.skipped + screen.dropped);
  const segments = await rows<{ id: string }>(
    `select s.id from segment s join track t on t.id = s.track_id where t.take_id = $1 and t.kind = 'screen' and s.bytes > 0`,
    [takeId],
  );
  const films = await Promise.all(segments.map(({ id }) => readCardFilm(join(folder, `${id}.media`))));
  const missing = within ? films.flatMap(missingNumbers) : missingNumbers(films.flat());
  expect(missing.length).toBeLessThanOrEqual(screen.skipped + screen.dropped + screen.lostBefore);
  expect(await complaints(join(folder, 'recorded.mkv'))).toBe('');
  expect(await complaints(join(folder, 'plain.mp4'))).toBe('');
  expect(await differing(takeId, folder)).toEqual([]);
  return ledger;
}

/** Records once more in the same page, without loading it again. */
async function recordAgain(page: Page): Promise<void> {
  await page.goBack();
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  const { folder } = await recordFor(page, 1500);
  await finished(page);
  expect((await keptTracks(folder)).map(({ title }) => title).sort()).toEqual([
    'App sound',
    'Camera',
    'Screen',
    'Voice',
  ]);
}

test('an encoder that dies, a muxer, a file and a sound encoder that fail, one after the other: each track goes on in a new segment', async ({
  studio: page,
}) => {
  await armed(page);
  const { takeId, folder } = await recordFor(page, 2000, async () => {
    await page.waitForTimeout(2000);
    await breakPart(page, { role: 'screen', part: 'encoder', times: 1 });
    await page.waitForTimeout(700);
    await breakPart(page, { role: 'camera', part: 'muxer', times: 1 });
    await page.waitForTimeout(700);
    await breakPart(page, { role: 'voice', part: 'encoder', times: 1 });
    await page.waitForTimeout(700);
    await breakPart(page, { role: 'app-sound', part: 'file', times: 1 });
  });
  await finished(page);
  const said = page.getByRole('region', { name: 'Verdict' });
  for (const sentence of [
    /Screen: the encoder failed at 0:0\d; a new encoder took over\./,
    /Camera: the muxer failed at 0:0\d; a new file was started\./,
    /Voice: the encoder failed at 0:0\d; a new encoder took over\./,
    /App sound: the file could not be written at 0:0\d; a new file was started\./,
  ])
    await expect(said).toContainText(sentence);
  const tracks = await keptTracks(folder);
  expect(tracks.map(({ title }) => title).sort()).toEqual(
    ['Screen', 'Screen 2', 'Camera', 'Camera 2', 'Voice', 'Voice 2', 'App sound', 'App sound 2'].sort(),
  );
  const ends = tracks.filter(({ title }) => title.endsWith('2')).map(({ endUs }) => endUs);
  expect(Math.max(...ends) - Math.min(...ends)).toBeLessThan(0.3e6);
  const of = (title: string) => tracks.findIndex((track) => track.title === title);
  const gapUs = (title: string) =>
    (tracks[of(`${title} 2`)]?.startUs ?? Number.NaN) - (tracks[of(title)]?.endUs ?? Number.NaN);
  for (const title of ['Voice', 'App sound']) expect(gapUs(title), title).toBeLessThan(0.3e6);
  // Between two segments no picture is missing that was not counted, however long the machine took for the new one.
  const ledger = await expectAccounted(takeId, folder);
  for (const [title, { skipped, dropped, lostBefore }] of [
    ['Screen', ledger.screen],
    ['Camera', ledger.camera],
  ] as const)
    expect(gapUs(title) / FRAME_US, title).toBeLessThan(skipped + dropped + lostBefore + 1);
  // Samples count the take's time in both parts of a sound, from the take's first instant on.
  for (const title of ['Voice', 'Voice 2', 'App sound', 'App sound 2']) {
    const samples = await samplesOf(join(folder, 'recorded.mkv'), String(of(title)));
    expect(Math.abs(samples.length / 48_000 - (tracks[of(title)]?.endUs ?? 0) / 1e6), title).toBeLessThan(
      0.1,
    );
  }
  expect(await heldLocks(page)).toEqual([]);
});

test('every encoder of the picture fails again and again: the track ends, the take goes on, Stop works, the next take is whole', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page);
  await startRecording(page);
  await page.waitForTimeout(2000);
  await breakPart(page, { role: 'screen', part: 'encoder', times: 1000 });
  await expect(page.getByText(/^Screen: No longer recorded\. The encoder failed/)).toBeVisible();
  await page.waitForTimeout(2500);
  await breakPart(page, { role: 'screen', part: 'encoder', times: 0 });
  await page.getByRole('button', { name: /^Stop/ }).click();
  const { takeId, folder } = await takeOpened(page);
  await finished(page);
  await expect(page.getByText(/Screen: not recorded from 0:0\d to 0:0\d\./)).toBeVisible();
  await expect(page.getByText(/Screen: the encoder failed at 0:0\d; the track ends there\./)).toBeVisible();
  const tracks = await keptTracks(folder);
  const end = (title: string) => tracks.find((track) => track.title === title)?.endUs ?? Number.NaN;
  // The others never noticed.
  for (const title of ['Camera', 'Voice', 'App sound']) expect(end(title), title).toBeGreaterThan(4.2e6);
  expect(end('Screen')).toBeLessThan(3.5e6);
  const { screen } = await ledgerOf(takeId);
  expect(screen.arrived).toBe(screen.encoded + screen.skipped + screen.dropped);
  expect(await complaints(join(folder, 'recorded.mkv'))).toBe('');
  expect(await differing(takeId, folder)).toEqual([]);
  expect(await heldLocks(page)).toEqual([]);
  await recordAgain(page);
});

test('a size that the encoder refuses in the middle of a take, and encoders that cannot be emptied at its end', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, { ...CARD_RIG, picture: { ...CARD_RIG.picture, textHint: 'off', box: null } });
  const { takeId, folder } = await recordFor(page, 2500, async () => {
    await page.waitForTimeout(2000);
    await breakPart(page, { role: 'screen', part: 'configure', times: 1 });
    await misbehave(page, 'test-card', { kind: 'resized', size: { width: 1280, height: 720 } });
    await page.waitForTimeout(1500);
    for (const role of ALL) await breakPart(page, { role, part: 'flush', times: 1 });
  });
  await finished(page);
  const sizes = await rows<{ width: number }>(
    `select (s.configuration->>'width')::int as width from segment s join track t on t.id = s.track_id
     where t.take_id = $1 and t.kind = 'screen' order by s.index`,
    [takeId],
  );
  expect(sizes.map(({ width }) => width)).toEqual([1920, 1280]);
  await expect(
    page.getByText(/Screen: the encoder failed at 0:0\d; a new encoder took over\./),
  ).toBeVisible();
  const { screen } = await expectAccounted(takeId, folder, true);
  // What was inside the encoder at the end is not in the file, and is counted.
  expect(screen.dropped).toBeGreaterThan(0);
  const ends = (await keptTracks(folder)).map(({ title, endUs }) => ({ title, endUs }));
  for (const title of ['Screen 2', 'Camera', 'Voice', 'App sound'])
    expect(ends.find((track) => track.title === title)?.endUs, title).toBeGreaterThan(5.2e6);
  await misbehave(page, 'test-card', null);
  expect(await heldLocks(page)).toEqual([]);
  await recordAgain(page);
});

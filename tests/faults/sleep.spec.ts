// A machine that sleeps in the middle of a take: nothing is recorded meanwhile, nothing is made up, and the take says so.
import { launch } from '../support/browser';
import { keptTracks } from '../support/kept';
import { rows, signalBrowser } from '../support/processes';
import { armed, CARD_RIG, expect, finished, startRecording, takeFolder, takeOpened } from '../support/studio';
import { test } from '../support/test';

const ASLEEP_MS = 12_000;

const slept = (ms: number) => new Promise((done) => setTimeout(done, ms));

test('a browser that stood still for 12 s leaves a pause of that length: no frozen picture and no silence', async ({
  profile,
}) => {
  const browser = await launch(profile);
  const page = browser.pages()[0] ?? (await browser.newPage());
  await armed(page, { ...CARD_RIG, camera: null });
  await startRecording(page);
  await page.waitForTimeout(3000);
  // Stopped as a whole, as by a lid that is closed: no timer runs, no source gives anything.
  signalBrowser(profile, 'SIGSTOP');
  await slept(ASLEEP_MS);
  signalBrowser(profile, 'SIGCONT');
  await page.waitForTimeout(3000);
  await page.keyboard.press('s');
  const { takeId } = await takeOpened(page);
  await finished(page);
  await expect(
    page.getByText(/The computer slept for 1[1-3] s at 0:0\d; nothing was recorded in that time\./),
  ).toBeVisible();
  const [take] = await rows<{ duration_us: string }>('select duration_us from take where id = $1', [takeId]);
  const lengthS = Number(take?.duration_us) / 1e6;
  expect(lengthS).toBeGreaterThan(5);
  expect(lengthS).toBeLessThan(10);
  // Every track is as long as the take, and none as long as the sleep.
  const tracks = await keptTracks(takeFolder(takeId));
  expect(tracks.map(({ title }) => title)).toEqual(['Screen', 'Voice', 'App sound']);
  for (const { title, endUs } of tracks) expect(Math.abs(endUs / 1e6 - lengthS), title).toBeLessThan(0.5);
  await browser.close();
});

// Practice devices that misbehave: the take says where, and the rest is untouched.

import { join } from 'node:path';
import { frameOutcome } from '@/core/recording/frame-outcome';
import { withPlainBrowser } from '../support/browser';
import { missingNumbers, readCardFilm, samplesOf, videoTimes } from '../support/card-film';
import { complaints, keptTracks, ledgerOf } from '../support/kept';
import { rows } from '../support/processes';
import {
  armed,
  CARD_RIG,
  expect,
  finished,
  misbehave,
  recordFor,
  startRecording,
  takeOpened,
} from '../support/studio';
import { AT_LENGTH, test } from '../support/test';

test('camera and microphone that go and come back leave a gap and a new segment; the take says where', async ({
  studio: page,
}) => {
  await armed(page);
  const { takeId, folder } = await recordFor(page, 2500, async () => {
    await page.waitForTimeout(2500);
    await misbehave(page, 'presenter-green', { kind: 'gone' });
    await misbehave(page, 'voice', { kind: 'gone' });
    await expect(page.getByText(/^(Camera|Voice): The source ended/)).toBeVisible();
    await page.waitForTimeout(2000);
    await misbehave(page, 'presenter-green', null);
    await misbehave(page, 'voice', null);
    await expect(page.getByText(/The source ended/)).toBeHidden();
  });
  await finished(page);
  const tracks = await keptTracks(folder);
  const of = (title: string) =>
    tracks.find((track) => track.title === title) ?? { startUs: Number.NaN, endUs: Number.NaN };
  expect(tracks.map(({ title }) => title).sort()).toEqual(
    ['App sound', 'Camera', 'Camera 2', 'Screen', 'Voice', 'Voice 2'].sort(),
  );
  for (const name of ['Camera', 'Voice']) {
    expect(of(`${name} 2`).startUs - of(name).endUs, name).toBeGreaterThan(1.5e6);
    expect(Math.abs(of(`${name} 2`).endUs - of('App sound').endUs), name).toBeLessThan(0.3e6);
    // The take names the gap that its file has, to the second.
    const said = await page.getByText(new RegExp(`${name}: no signal from`)).textContent();
    const [from, to] = [...(said?.split(`${name}: `)[1] ?? '').matchAll(/0:(\d\d)/g)].map(([, s]) =>
      Number(s),
    );
    expect(Math.abs((from ?? Number.NaN) - of(name).endUs / 1e6), said ?? '').toBeLessThan(1.1);
    expect(Math.abs((to ?? Number.NaN) - of(`${name} 2`).startUs / 1e6), said ?? '').toBeLessThan(1.1);
  }
  // The others had no gap.
  const frames = await readCardFilm(join(folder, 'recorded.mkv'));
  const { screen } = await ledgerOf(takeId);
  expect(missingNumbers(frames).length).toBeLessThanOrEqual(
    screen.skipped + screen.dropped + screen.lostBefore,
  );
  expect(await complaints(join(folder, 'plain.mp4'))).toBe('');
  expect(await complaints(join(folder, 'recorded.mkv'))).toBe('');
});

test('sharing that is ended from outside ends the take like a stop', async ({ studio: page }) => {
  await armed(page);
  await startRecording(page);
  await page.waitForTimeout(2500);
  await misbehave(page, 'test-card', { kind: 'gone' });
  const { takeId, folder } = await takeOpened(page);
  await finished(page);
  const tracks = await keptTracks(folder);
  expect(tracks.map(({ title }) => title).sort()).toEqual(['App sound', 'Camera', 'Screen', 'Voice']);
  for (const { title, endUs } of tracks) expect(endUs, title).toBeGreaterThan(2.2e6);
  // No absence and no cut: the verdict speaks of the frames alone, and of as many as were dropped.
  const { screen } = await ledgerOf(takeId);
  await expect(page.getByText(frameOutcome(screen).sentence)).toBeVisible();
});

test('a picture that changes its size goes on in a new segment without a lost frame', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  // One to one, so that the size of the file is the size of the source.
  await armed(page, {
    ...CARD_RIG,
    camera: null,
    picture: { ...CARD_RIG.picture, textHint: 'off', box: null },
  });
  const { takeId, folder } = await recordFor(page, 2500, async () => {
    await page.waitForTimeout(2500);
    await misbehave(page, 'test-card', { kind: 'resized', size: { width: 1280, height: 720 } });
  });
  await finished(page);
  const sizes = await rows<{ width: number; start_us: string }>(
    `select (s.configuration->>'width')::int as width, s.start_us from segment s join track t on t.id = s.track_id
     where t.take_id = $1 and t.kind = 'screen' order by s.index`,
    [takeId],
  );
  expect(sizes.map(({ width }) => width)).toEqual([1920, 1280]);
  expect(Number(sizes[1]?.start_us)).toBeGreaterThan(2e6);
  const { screen } = await ledgerOf(takeId);
  expect(screen.arrived).toBe(screen.encoded + screen.skipped + screen.dropped);
  const film = await readCardFilm(join(folder, 'plain.mp4'));
  // Both halves are in the plain video, the second whole as the first.
  expect(film.filter(({ frame }) => frame === null)).toEqual([]);
  expect(film.at(-1)?.ptsUs).toBeGreaterThan(4.5e6);
});

test('late and few frames are recorded at their true times and counted; a silent microphone is silent, a stuck one too', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page);
  await misbehave(page, 'test-card', { kind: 'late', ms: 300 });
  await misbehave(page, 'presenter-green', { kind: 'fewer', oneOf: 3 });
  const { takeId, folder } = await recordFor(page, 1500, async () => {
    await page.waitForTimeout(2500);
    await misbehave(page, 'voice', { kind: 'silent' });
    await misbehave(page, 'beep', { kind: 'stuck' });
    await page.waitForTimeout(2500);
  });
  await finished(page);
  const { screen, camera } = await ledgerOf(takeId);
  expect(screen.arrived).toBe(screen.encoded + screen.skipped + screen.dropped);
  const durationS = ((await keptTracks(folder)).find(({ title }) => title === 'Voice')?.endUs ?? 0) / 1e6;
  expect(camera.arrived).toBeLessThan(durationS * 12);
  // A frame's number is its time: late on its way, it still stands where it belongs.
  const frames = (await readCardFilm(join(folder, 'recorded.mkv'))).filter(({ frame }) => frame !== null);
  const [first, last] = [
    frames.find(({ ptsUs }) => ptsUs > 1.5e6),
    frames.findLast(({ ptsUs }) => ptsUs < 4.5e6),
  ];
  const numbers = (last?.frame ?? 0) - (first?.frame ?? 0);
  expect(Math.abs((last?.ptsUs ?? 0) - (first?.ptsUs ?? 0) - (numbers * 1e6) / 30)).toBeLessThan(5000);
  const titles = (await keptTracks(folder)).map(({ title }) => title);
  for (const title of ['Voice', 'App sound']) {
    const samples = await samplesOf(join(folder, 'recorded.mkv'), String(titles.indexOf(title)));
    // Its samples still count the take's time, to the end.
    expect(Math.abs(samples.length / 48_000 - durationS), title).toBeLessThan(0.1);
    const tail = samples.subarray(samples.length - 48_000 * 2, samples.length - 24_000);
    expect(
      tail.reduce((most, v) => Math.max(most, Math.abs(v)), 0),
      title,
    ).toBeLessThan(0.002);
  }
});

test('a second tab in front that would record too says that another does; the first, in the background with its timers slowed, records on untouched', {
  tag: AT_LENGTH,
}, async ({ profile }) => {
  await withPlainBrowser(profile, async (context) => {
    const page = context.pages()[0] ?? (await context.newPage());
    await armed(page);
    const { takeId, folder } = await recordFor(page, 500, async () => {
      const front = await context.newPage();
      await armed(front);
      await front.getByRole('button', { name: 'Record R', exact: true }).click();
      await expect(front.getByText('Another tab of this browser is recording.')).toBeVisible();
      const ticks = await page.evaluate(
        () =>
          new Promise<number>((done) => {
            let ticks = 0;
            const timer = setInterval(() => ticks++, 20);
            setTimeout(() => {
              clearInterval(timer);
              done(ticks);
            }, 4000);
          }),
      );
      expect(await page.evaluate(() => document.visibilityState)).toBe('hidden');
      expect(ticks).toBeLessThan(25);
      await page.bringToFront();
      await front.close();
    });
    await finished(page);
    const { screen } = await ledgerOf(takeId);
    const recorded = join(folder, 'recorded.mkv');
    const durationS = ((await keptTracks(folder)).find(({ title }) => title === 'Voice')?.endUs ?? 0) / 1e6;
    expect(screen.arrived + screen.lostBefore).toBeGreaterThan((durationS - 0.5) * 30);
    expect(missingNumbers(await readCardFilm(recorded)).length).toBeLessThanOrEqual(
      screen.skipped + screen.dropped + screen.lostBefore,
    );
    // Whatever hung on the page's slowed timers would come once a second.
    const times = await videoTimes(recorded);
    expect(times.length).toBe(screen.encoded + screen.repeated);
    expect(Math.max(...times.slice(1).map((us, i) => us - (times[i] ?? 0)))).toBeLessThan(0.5e6);
  });
});

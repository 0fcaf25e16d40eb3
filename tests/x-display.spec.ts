import { type ChildProcess, execFile, spawn } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Page } from '@playwright/test';
import { launch } from './support/browser';
import { text, videoTimes } from './support/card-film';
import { rows } from './support/processes';
import { choose, expect, finished, recordFor, stretch } from './support/studio';
import { collectErrors, test } from './support/test';

/** A display number that no other test uses. */
const DISPLAY = ':94';
const CLOCK = 'Seed clock';
const STRIP = { width: 1920, height: 300, y: 780 };

const children: ChildProcess[] = [];
const background = (command: string, args: string[]) => {
  const child = spawn(command, args, { env: { ...process.env, DISPLAY }, stdio: 'ignore' });
  children.push(child);
  return child;
};
test.afterEach(() => {
  for (const child of children.splice(0)) child.kill('SIGKILL');
});

/** Across the strip: where the light is, frame by frame, as a share of the width. */
async function centres(file: string): Promise<number[]> {
  const [width, height] = [192, 30];
  const crop = `crop=iw:ih*${STRIP.height}/1080:0:ih*${STRIP.y}/1080,scale=${width}:${height}:flags=area,format=gray`;
  const raw = join(file, '..', 'strip.gray');
  await text('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-i',
    file,
    '-vf',
    crop,
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    raw,
  ]);
  const bytes = readFileSync(raw);
  rmSync(raw);
  const found: number[] = [];
  for (let at = 0; at + width * height <= bytes.length; at += width * height) {
    let [sum, weight] = [0, 0];
    for (let i = 0; i < width * height; i++) {
      const light = (bytes[at + i] ?? 0) > 128 ? 1 : 0;
      sum += light * (i % width);
      weight += light;
    }
    found.push(weight > 0 ? sum / weight / width : Number.NaN);
  }
  return found;
}

/** An X display with a clock in a window of its own. */
async function displayWithClock(geometry: string): Promise<void> {
  background('Xvfb', [DISPLAY, '-screen', '0', '1920x1080x24', '-nolisten', 'tcp']);
  await expect.poll(displayAnswers, { timeout: 10_000 }).toBe(true);
  background('xclock', ['-title', CLOCK, '-geometry', geometry, '-update', '1', '-bg', 'white']);
  const windowThere = () =>
    xdotool(['search', '--class', 'xclock']).then(
      () => true,
      () => false,
    );
  await expect.poll(windowThere, { timeout: 10_000 }).toBe(true);
}

/** Set up of a new lesson in a browser on that display, with neither camera nor app sound nor countdown. */
async function setUpOn(profile: string, picks: string, size: string): Promise<Page> {
  const context = await launch(profile, {
    headless: false,
    env: { DISPLAY },
    args: [picks, '--window-position=0,0', `--window-size=${size}`],
  });
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await stretch(page, 'Camera');
  await choose(page, 'Device', 'No camera');
  await stretch(page, 'App sound');
  await choose(page, 'App sound', 'No app sound');
  await stretch(page, 'File');
  await page.getByText('Off', { exact: true }).click();
  await stretch(page, 'Source');
  await choose(page, 'Source', 'Window');
  await page.getByRole('button', { name: 'Share now' }).click();
  return page;
}

test('a real display is recorded: a real window that moves on it moves in the file', async ({ profile }) => {
  await displayWithClock(`260x260+0+${STRIP.y + 20}`);
  const page = await setUpOn(profile, '--auto-select-desktop-capture-source=Entire screen', '1280,760');
  const errors = collectErrors(page);
  // What the picker delivers is compared with what was meant.
  await expect(page.getByText('You chose one window but shared a whole display.')).toBeVisible({
    timeout: 15_000,
  });
  await expect(page.getByText('Shared: a whole display, 1920 × 1080')).toBeVisible();
  await page.getByRole('button', { name: 'Record a whole display' }).click();
  await expect(page.getByRole('img', { name: 'Live picture' })).toBeVisible({ timeout: 15_000 });
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  await page.waitForTimeout(1500);
  const { folder } = await recordFor(page, 500, async () => {
    const moves = Array.from(
      { length: 60 },
      (_, i) => `search --class xclock windowmove ${i * 27} ${STRIP.y + 20} sleep 0.06`,
    ).join(' ');
    await xdotool(moves.split(' '));
  });
  await finished(page);
  expect(errors).toEqual([]);
  await page.context().close();

  const file = join(folder, 'plain.mp4');
  const seen = (await centres(file)).filter((x) => !Number.isNaN(x));
  const times = await videoTimes(file);
  expect(times.length).toBeGreaterThan(30);
  expect((times.at(-1) ?? 0) / 1e6).toBeGreaterThan(3.5);
  // From the left edge to the right one, never back.
  expect(seen[0]).toBeLessThan(0.2);
  expect(seen.at(-1)).toBeGreaterThan(0.75);
  const back = seen.slice(1).filter((x, i) => x < (seen[i] ?? 0) - 0.01);
  expect(back).toEqual([]);
  expect(new Set(seen.map((x) => x.toFixed(2))).size).toBeGreaterThan(20);
});

test('a real window is followed while it is resized, before and during a take', async ({ profile }) => {
  await displayWithClock('640x480+100+560');
  // Without a window manager nobody says that it is a window of a program (ICCCM 4.1.3.1).
  const id = (await onDisplay('xdotool', ['search', '--class', 'xclock'])).stdout.trim();
  await onDisplay('xprop', ['-id', id, '-f', 'WM_STATE', '32c', '-set', 'WM_STATE', '1']);
  const resize = (width: number, height: number) => xdotool(['windowsize', id, `${width}`, `${height}`]);
  const page = await setUpOn(profile, `--auto-select-window-capture-source-by-title=${CLOCK}`, '1280,760');
  const missing = page.getByRole('status').filter({ hasText: 'One to one with 1280 × 720' });
  await expect(missing).toContainText('The window is 640 × 480: make it 640 wider and 240 taller.');
  await resize(800, 600);
  await expect(missing).toContainText('The window is 800 × 600: make it 480 wider and 120 taller.');
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  const { takeId, folder } = await recordFor(page, 2500, async () => {
    await page.waitForTimeout(2500);
    await resize(960, 640);
  });
  await finished(page);
  await page.context().close();
  const segments = await rows<{ id: string; configuration: { width: number; height: number } }>(
    "select s.id, s.configuration from segment s join track t on s.track_id = t.id where t.take_id = $1 and t.kind = 'screen' order by s.start_us",
    [takeId],
  );
  expect(segments.map(({ configuration: { width, height } }) => `${width} × ${height}`)).toEqual([
    '800 × 600',
    '960 × 640',
  ]);
  const times = await videoTimes(join(folder, 'plain.mp4'));
  expect((times.at(-1) ?? 0) / 1e6).toBeGreaterThan(4.5);
});

const onDisplay = (command: string, args: string[]) =>
  promisify(execFile)(command, args, { env: { ...process.env, DISPLAY } });
const xdotool = (args: string[]) => onDisplay('xdotool', args);

const displayAnswers = () =>
  xdotool(['getdisplaygeometry']).then(
    () => true,
    () => false,
  );

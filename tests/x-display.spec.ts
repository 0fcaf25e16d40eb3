import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { launch } from './support/browser';
import { text, videoTimes } from './support/card-film';
import { choose, collectErrors, expect, finished, recordFor, stretch, test } from './support/studio';

/** A display number that no other test uses. */
const DISPLAY = ':94';
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

test('a real display is recorded: a real window that moves on it moves in the file', async ({ profile }) => {
  background('Xvfb', [DISPLAY, '-screen', '0', '1920x1080x24', '-nolisten', 'tcp']);
  await expect.poll(displayAnswers, { timeout: 10_000 }).toBe(true);
  background('xclock', ['-geometry', `260x260+0+${STRIP.y + 20}`, '-update', '1', '-bg', 'white']);
  const windowThere = () =>
    xdotool(['search', '--class', 'xclock']).then(
      () => true,
      () => false,
    );
  await expect.poll(windowThere, { timeout: 10_000 }).toBe(true);

  const context = await launch(profile, {
    headless: false,
    env: { DISPLAY },
    args: [
      '--auto-select-desktop-capture-source=Entire screen',
      '--window-position=0,0',
      '--window-size=1280,760',
    ],
  });
  const page = context.pages()[0] ?? (await context.newPage());
  const errors = collectErrors(page);
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await stretch(page, 'Camera');
  await choose(page, 'Device', 'No camera');
  await stretch(page, 'App sound');
  await choose(page, 'App sound', 'No app sound');
  await stretch(page, 'Aim');
  // What the picker delivers is compared with what was meant.
  await choose(page, 'What is shown', 'One window');
  await page.getByRole('button', { name: 'Choose it now' }).click();
  await expect(page.getByText('Meant was one window; shared was a whole display.')).toBeVisible({
    timeout: 15_000,
  });
  await choose(page, 'What is shown', 'A whole display');
  await stretch(page, 'File');
  await page.getByText('Off', { exact: true }).click();
  await stretch(page, 'Aim');
  await page.getByRole('button', { name: 'Choose it now' }).click();
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
  await context.close();

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

const xdotool = (args: string[]) =>
  new Promise<void>((resolve, reject) => {
    const child = spawn('xdotool', args, { env: { ...process.env, DISPLAY }, stdio: 'ignore' });
    child.on('close', (code) => (code === 0 ? resolve() : reject(new Error(`xdotool ended with ${code}`))));
  });

const displayAnswers = () =>
  xdotool(['getdisplaygeometry']).then(
    () => true,
    () => false,
  );

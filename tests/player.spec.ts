// Watching a take: to a place that is typed, as loud as wanted, on the whole screen.
import { rows } from './support/processes';
import { expect } from './support/studio';
import { test } from './support/test';

test('a take is watched from a typed place, quieter, mute and on the whole screen', async ({
  studio: page,
}) => {
  // What really goes to the loudspeakers: the last gain before them.
  await page.addInitScript(() => {
    const { connect } = AudioNode.prototype;
    AudioNode.prototype.connect = function (this: AudioNode, ...to: unknown[]) {
      if (to[0] instanceof AudioDestinationNode) {
        const heard = new AnalyserNode(this.context, { fftSize: 2048 });
        Reflect.apply(connect, this, [heard]);
        const samples = new Float32Array(heard.fftSize);
        // Listened to all the time, 43 ms at once: speech has pauses.
        setInterval(() => {
          heard.getFloatTimeDomainData(samples);
          const page = window as { peak?: number };
          page.peak = Math.max(page.peak ?? 0, ...samples.map(Math.abs));
        }, 20);
        Object.assign(window, { ...(this instanceof GainNode && { lastGain: this }) });
      }
      return Reflect.apply(connect, this, to);
    } as typeof connect;
  });
  const gain = () =>
    page.evaluate(() => (window as unknown as { lastGain?: GainNode }).lastGain?.gain.value ?? Number.NaN);
  /** The loudest of what went out since the last call, dBFS. */
  const loudest = () =>
    page.evaluate(() => {
      const { peak = 0 } = window as { peak?: number };
      Object.assign(window, { peak: 0 });
      return 20 * Math.log10(Math.max(1e-6, peak));
    });
  const [take] = await rows<{ id: string }>(
    `select take.id from take join lesson on lesson.id = take.lesson_id
     where lesson.title = 'Plan a bed rotation' and take.state = 'ready' limit 1`,
  );
  await page.goto(`/takes/${take?.id}`);
  const player = page.locator('.player[data-loaded=true]');
  await expect(player).toBeVisible();

  const place = page.getByRole('textbox', { name: 'Time code' });
  await place.fill('0:05:15');
  await place.press('Enter');
  // The demo is recorded at 30 fps: half a second.
  await expect(player).toHaveAttribute('data-position', '5500000');
  await expect(place).toHaveValue('0:05:15');
  await place.fill('9:99');
  await place.press('Enter');
  await place.fill('0:02');
  await place.press('Escape');
  await expect(place).toHaveValue('0:05:15');

  await page.getByRole('button', { name: /^Play/ }).click();
  await expect.poll(gain).toBe(1);
  await page.keyboard.press('m');
  await expect(page.getByRole('button', { name: 'Mute' })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(gain).toBeLessThan(0.001);
  await page.keyboard.press('m');
  await page.getByRole('slider', { name: 'Volume' }).focus();
  for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => Math.round((await gain()) * 100)).toBe(50);

  await page.keyboard.press('f');
  const full = () => page.evaluate(() => document.fullscreenElement?.classList.contains('screen') ?? false);
  await expect.poll(full).toBe(true);
  await page.keyboard.press('f');
  await expect.poll(full).toBe(false);

  // At double speed the position advances twice as fast, and the output is not silent.
  const speed = page.getByRole('combobox', { name: 'Playback speed' });
  const choose = async (name: string) => {
    await speed.click();
    await page.locator('.ant-select-dropdown:visible').getByText(name, { exact: true }).click();
  };
  // It still plays, unless the machine was slow and it came to its end: asked and paused at one moment of the page.
  await page.evaluate(() => {
    for (const button of document.querySelectorAll('button'))
      if (button.textContent?.startsWith('Pause')) button.click();
  });
  await expect(page.getByRole('button', { name: /^Play/ })).toBeVisible();
  const pace = async () => {
    await place.fill('0:00:00');
    await place.press('Enter');
    await expect(player).toHaveAttribute('data-position', '0');
    await page.getByRole('button', { name: /^Play/ }).click();
    const at = async () => Number(await player.getAttribute('data-position'));
    await expect.poll(at, { timeout: 15_000 }).toBeGreaterThan(200_000);
    const [from, began] = [await at(), Date.now()];
    await loudest();
    await page.waitForTimeout(2000);
    const gone = ((await at()) - from) / 1000 / (Date.now() - began);
    // Each time it is played it is heard.
    expect(await loudest()).toBeGreaterThan(-50);
    await page.keyboard.press('k');
    return gone;
  };
  for (const [name, asked] of [
    ['2×', 2],
    ['0.5×', 0.5],
    ['1×', 1],
  ] as const) {
    await choose(name);
    const gone = await pace();
    // A shared machine may stand still for a moment.
    expect(gone / asked, `at ${name}`).toBeGreaterThan(0.7);
    expect(gone / asked, `at ${name}`).toBeLessThan(1.3);
  }

  // This browser plays the next one as loud.
  await page.reload();
  // A place that is wished for before anything is loaded is shown when it is.
  await page.locator('.player').waitFor();
  await page.keyboard.press('Shift+ArrowRight');
  await page.locator('.player[data-exact=true]').waitFor();
  await expect(page.getByRole('slider', { name: 'Volume' })).toHaveAttribute('aria-valuenow', '0.5');
});

test('the player of the next page goes on in the worker of the one before', async ({ studio: page }) => {
  const [take] = await rows<{ id: string }>(
    `select take.id from take join lesson on lesson.id = take.lesson_id
     where lesson.title = 'Plan a bed rotation' and take.state = 'ready' limit 1`,
  );
  const players = async () => {
    const named = await Promise.all(
      page.workers().map(async (worker) => ({ worker, name: await worker.evaluate(() => self.name) })),
    );
    return named.filter(({ name }) => name === 'player').map(({ worker }) => worker);
  };
  const exact = page.locator('.player[data-exact=true]');
  /** How many colours the canvas has: a picture has many, an empty one has one. */
  const colours = () =>
    page.locator('.player canvas').evaluate((canvas: HTMLCanvasElement) => {
      const pen = new OffscreenCanvas(64, 36).getContext('2d');
      pen?.drawImage(canvas, 0, 0, 64, 36);
      return new Set(new Uint32Array(pen?.getImageData(0, 0, 64, 36).data.buffer ?? new ArrayBuffer(0))).size;
    });
  await page.goto(`/takes/${take?.id}`);
  await exact.waitFor();
  const [worker, ...others] = await players();
  expect(others).toHaveLength(0);
  const isSame = async () => {
    const now = await players();
    expect(now).toHaveLength(1);
    expect(now[0] === worker).toBe(true);
  };
  // Left while it looks for a place.
  await page.getByRole('textbox', { name: 'Time code' }).fill('0:05:15');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Edit', exact: true }).first().click();
  await page.waitForURL(/\/edit/);
  await exact.waitFor();
  await expect.poll(colours).toBeGreaterThan(20);
  await isSame();
  await page.goBack();
  await page.waitForURL(/\/takes\//);
  await exact.waitFor();
  await expect.poll(colours).toBeGreaterThan(20);
  await isSame();
  await page.getByRole('button', { name: /^Play/ }).click();
  await expect
    .poll(async () => Number(await page.locator('.player').getAttribute('data-position')))
    .toBeGreaterThan(500_000);
});

// A tab of the studio that is captured tells what the pointer does in it: into the events of the take, and to a region that follows it.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { TakeEvent } from '@/core/recording/take';
import { launch } from './support/browser';
import { type armed, CARD_RIG, expect, finished, recordFor } from './support/studio';
import { collectErrors, test } from './support/test';

const REGION = { width: 640, height: 360 };

test('pointer, clicks and keys of a captured tab of the studio are in the take, and a region follows them', async ({
  profile,
}) => {
  const context = await launch(profile, {
    args: ['--auto-select-tab-capture-source-by-title=Rigs'],
  });
  const shown = await context.newPage();
  await shown.goto('/rigs');
  const page = context.pages()[0] ?? (await context.newPage());
  const errors = collectErrors(page);
  const lessonRig = {
    ...CARD_RIG,
    camera: null,
    voice: null,
    appSound: null,
    picture: {
      ...CARD_RIG.picture,
      source: { from: 'screen' as const, meant: 'tab' as const },
      aim: { x: 0, y: 0, ...REGION },
      box: null,
      follow: { speed: 3000, dead: 0.3 },
    },
  };
  await page.request.get('/');
  await armedForSharing(page, lessonRig);
  await page.getByRole('button', { name: 'Share now' }).click();
  await expect(page.getByText('A tab of the studio is captured', { exact: false })).toBeVisible();
  await page
    .getByRole('region', { name: 'Verdict' })
    .getByRole('link', { name: /Record/ })
    .click();
  const places = [
    [200, 200],
    [900, 300],
    [1100, 600],
    [300, 650],
  ] as const;
  const { takeId, folder } = await recordFor(page, 500, async () => {
    for (const [x, y] of places) {
      await shown.mouse.move(x, y, { steps: 12 });
      await shown.waitForTimeout(500);
    }
    await shown.mouse.click(300, 650);
    await shown.keyboard.press('Escape');
  });
  await finished(page);
  expect(errors).toEqual([]);
  expect(takeId).toBeTruthy();
  const events = readdirSync(folder)
    .filter((name) => name.endsWith('.media'))
    .map((name) => readFileSync(join(folder, name)))
    .filter((bytes) => bytes.subarray(0, 1).toString() === '{')
    .flatMap((bytes) => bytes.toString().trim().split('\n'))
    .map((line): TakeEvent => JSON.parse(line));
  const of = (kind: TakeEvent['kind']) => events.filter((event) => event.kind === kind);
  const pointers = of('pointer');
  expect(pointers.length).toBeGreaterThan(30);
  const scale = Number(pointers.at(-1)?.data.x) / 300;
  for (const [x, y] of places)
    expect(
      pointers.some(
        ({ data }) => Math.abs(Number(data.x) - x * scale) < 2 && Math.abs(Number(data.y) - y * scale) < 2,
      ),
      `the pointer was at ${x}, ${y}`,
    ).toBe(true);
  expect(of('click').map(({ data }) => data.button)).toEqual(['left']);
  expect(of('key').map(({ data }) => data.key)).toEqual(['Escape']);
  // The region comes to where the pointer rests.
  const last = of('region').at(-1)?.data ?? {};
  const [x, y] = [Number(last.x), Number(last.y)];
  const [atX, atY] = [300 * scale, 650 * scale];
  expect(atX > x && atX < x + REGION.width && atY > y && atY < y + REGION.height).toBe(true);
  await context.close();
});

/** The lesson's Set up, where the tab is chosen by a click. */
async function armedForSharing(page: Parameters<typeof armed>[0], rig: Parameters<typeof armed>[1]) {
  const lesson = await (await page.request.post('/api/lessons', { data: { title: 'Own tab' } })).json();
  await page.request.patch(`/api/lessons/${lesson.id}`, { data: { rig } });
  await page.goto(`/lessons/${lesson.id}/set-up`);
}

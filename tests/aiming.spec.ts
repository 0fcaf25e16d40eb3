// What is aimed at is what lies in the file: region, fit and camera, pixel by pixel against what the test card shows there.
import { join } from 'node:path';
import { fitted } from '@/core/layout/fit';
import { GROUND, placeCamera } from '@/core/layout/layout';
import { FIRST_PLACE, type Rig } from '@/core/rig/rig';
import { pictureAt } from './support/card-film';
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  choose,
  expect,
  expectAccessible,
  finished,
  recordEach,
  recordFor,
  stretch,
} from './support/studio';
import { test } from './support/test';

const SOURCE = { width: 1920, height: 1080 };
const rgb = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
/** The card's band of colour runs from left to right over its whole width. */
const [LEFT, RIGHT] = [rgb('#24506b'), rgb('#8cc0a8')];
const bandAt = (x: number) => LEFT.map((from, i) => from + ((RIGHT[i] ?? 0) - from) * (x / SOURCE.width));
const BAND_Y = [0.2, 0.28].map((share) => share * SOURCE.height);

type Aimed = Pick<Rig['picture'], 'aim' | 'box' | 'fit'> & Partial<Pick<Rig['picture'], 'filter'>>;
const COMBINATIONS: Record<string, Aimed> = {
  'all of it, one to one': { aim: 'whole', box: null, fit: 'within' },
  'a region, one to one': { aim: { x: 480, y: 108, width: 960, height: 540 }, box: null, fit: 'within' },
  'a region, made smaller by a filter of our own': {
    aim: { x: 200, y: 150, width: 1280, height: 720 },
    box: { width: 640, height: 360 },
    fit: 'within',
    filter: 'lanczos',
  },
  'a flat region with bars': {
    aim: { x: 320, y: 120, width: 1400, height: 400 },
    box: { width: 640, height: 640 },
    fit: 'letterbox',
  },
  'all of it, filling a square': { aim: 'whole', box: { width: 720, height: 720 }, fit: 'fill' },
  'all of it, stretched to a square': { aim: 'whole', box: { width: 720, height: 720 }, fit: 'stretch' },
};

const near = (seen: number[], expected: number[], what: string, tolerance = 10) =>
  expect(
    Math.max(...seen.map((v, i) => Math.abs(v - (expected[i] ?? 0)))),
    `${what}: ${seen} for ${expected}`,
  ).toBeLessThan(tolerance);

test('the file shows what was aimed at, whatever region, size and fit', async ({ studio: page }) => {
  test.setTimeout(300_000);
  const rigs = Object.values(COMBINATIONS).map((aimed) => ({
    ...CARD_RIG,
    appSound: null,
    picture: { ...CARD_RIG.picture, ...aimed },
  }));
  const takes = await recordEach(page, rigs, 1500);
  for (const [i, [name, aimed]] of Object.entries(COMBINATIONS).entries())
    await test.step(name, async () => {
      const folder = takes[i]?.folder ?? '';
      const { size, crop, at } = fitted(aimed, SOURCE);
      const picture = await pictureAt(join(folder, 'recorded.mkv'), 0.8);
      expect([picture.width, picture.height]).toEqual([size.width, size.height]);
      let compared = 0;
      for (let x = 24; x < SOURCE.width; x += 96)
        for (const y of BAND_Y) {
          if (x < crop.x + 8 || x > crop.x + crop.width - 8 || y < crop.y || y > crop.y + crop.height)
            continue;
          const [px, py] = [
            at.x + ((x - crop.x) * at.width) / crop.width,
            at.y + ((y - crop.y) * at.height) / crop.height,
          ];
          near(picture.at(px, py), bandAt(x), `source ${x}, ${y}`);
          compared++;
        }
      expect(compared).toBeGreaterThan(10);
      // Beside the kept part there is plain ground and nothing else.
      if (at.height < size.height)
        for (const y of [2, at.y - 10, at.y + at.height + 10, size.height - 3])
          near(picture.at(size.width / 2, y), rgb(GROUND), `bar at ${y}`);
      // The camera lies in the plain video where the preview had it: its wall is green.
      const camera = placeCamera(
        size,
        { width: 640, height: 360 },
        CARD_RIG.camera?.place as NonNullable<Rig['camera']>['place'],
      ).at;
      const plain = await pictureAt(join(folder, 'plain.mp4'), 0.8);
      const [r = 0, g = 0, b = 0] = plain.at(camera.x + camera.width * 0.12, camera.y + camera.height * 0.2);
      expect(g - Math.max(r, b)).toBeGreaterThan(30);
    });
});

test('a region is drawn, moved by keys, typed, kept under a name, and what is wrong with it is said', async ({
  studio: page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await expect(page.getByRole('img', { name: 'Live picture' })).toBeVisible();
  const lesson = page.url().split('/')[4] ?? '';
  const stored = async () =>
    (await rows<{ rig: Rig }>('select rig from lesson where id = $1', [lesson]))[0]?.rig.picture;
  await stretch(page, 'Capture area');
  await page.getByText('A region', { exact: true }).click();
  const region = page.getByRole('group', { name: /^Region / });
  await expect(region).toHaveAccessibleName(/^Region 1280 × 720 from 320, 180/);
  await expectAccessible(page);
  await region.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(region).toHaveAccessibleName(/from 322, 190/);
  await page.keyboard.press('Shift+ArrowDown');
  await expect(region).toHaveAccessibleName(/from 322, 200/);
  // With Ctrl it is resized at its far edges; the camera stays in the picture that is recorded.
  await page.keyboard.press('Control+ArrowRight');
  await page.keyboard.press('Control+Shift+ArrowUp');
  await expect(region).toHaveAccessibleName(/^Region 1282 × 710 from 322, 200/);
  await page.keyboard.press('Control+ArrowLeft');
  await page.keyboard.press('Control+Shift+ArrowDown');
  await expect(region).toHaveAccessibleName(/^Region 1280 × 720 from 322, 200/);
  await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible();
  // Its lower right corner is drawn near the edges of a window, and jumps to them.
  const corner = page.getByRole('button', { name: 'Region, lower right corner' });
  const outer = await page.locator('.live').boundingBox();
  const from = await corner.boundingBox();
  if (!outer || !from) throw new Error('There is no picture.');
  const scale = outer.width / SOURCE.width;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(outer.x + 1700 * scale, outer.y + 900 * scale, { steps: 4 });
  await page.mouse.move(outer.x + 1764 * scale, outer.y + 986 * scale, { steps: 4 });
  await page.mouse.up();
  await expect(region).toHaveAccessibleName(/^Region 1438 × 790 from 322, 200/);
  await page.getByLabel('Name for this region').fill('The list');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect.poll(async () => (await stored())?.regions.map((each) => each.name)).toEqual(['The list']);
  // Odd numbers are taken as they are typed; what is recorded instead is said, and one click takes that.
  await page.getByLabel('X', { exact: true }).fill('701');
  await page.getByLabel('X', { exact: true }).blur();
  await expect(page.getByText(/^The region extends beyond the source/)).toBeVisible();
  await page.getByRole('button', { name: 'Use the region that is recorded' }).click();
  await expect.poll(async () => (await stored())?.aim).toEqual({ x: 482, y: 200, width: 1438, height: 790 });
  await page.getByRole('button', { name: 'The list' }).click();
  await expect(region).toHaveAccessibleName(/from 322, 200/);
  await expect(page.getByRole('tab', { name: /^Capture area/ })).toContainText('region 1438 × 790');
});

test('the camera is drawn to another corner and to a free place, resized by keys, and lies there in the plain video', async ({
  studio: page,
}) => {
  await armed(page, { ...CARD_RIG, appSound: null });
  const lesson = page.url().split('/')[4] ?? '';
  await page.getByRole('link', { name: 'Set up', exact: true }).first().click();
  await stretch(page, 'Camera');
  const camera = page.getByRole('group', { name: /^Camera, / });
  await expect(camera).toHaveAccessibleName(/^Camera, bottom right, 20 % wide/);
  await expectAccessible(page);
  const drawTo = async (x: number, y: number) => {
    const [outer, from] = [await page.locator('.live').boundingBox(), await camera.boundingBox()];
    if (!outer || !from) throw new Error('There is no picture.');
    await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
    await page.mouse.down();
    await page.mouse.move(outer.x + x * outer.width, outer.y + y * outer.height, { steps: 6 });
    await page.mouse.up();
  };
  await drawTo(0.13, 0.15);
  await expect(camera).toHaveAccessibleName(/^Camera, top left/);
  await drawTo(0.5, 0.5);
  await expect(camera).toHaveAccessibleName(/^Camera, placed freely/);
  const width = page.getByRole('button', { name: 'Camera, width' });
  await width.focus();
  // 32 of the picture's 640 pixels, two at a time.
  for (let i = 0; i < 16; i++) await page.keyboard.press('ArrowRight');
  await expect(camera).toHaveAccessibleName(/25 % wide/);
  await page.getByText('Circle', { exact: true }).click();
  const stored = async () =>
    (await rows<{ rig: Rig }>('select rig from lesson where id = $1', [lesson]))[0]?.rig.camera?.place;
  await expect.poll(stored).toMatchObject({ shape: 'circle', width: 0.25 });
  const place = (await stored()) as NonNullable<Rig['camera']>['place'];
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  const { folder } = await recordFor(page, 1500);
  await finished(page);
  const plain = await pictureAt(join(folder, 'plain.mp4'), 0.8);
  const { at } = placeCamera({ width: 640, height: 360 }, { width: 640, height: 360 }, place);
  const green = ([r = 0, g = 0, b = 0]: number[]) => g - Math.max(r, b);
  // Inside the circle there is the wall, in the corner of its square the card.
  expect(green(plain.at(at.x + at.width * 0.2, at.y + at.height * 0.3))).toBeGreaterThan(30);
  expect(green(plain.at(at.x + at.width * 0.04, at.y + at.height * 0.04))).toBeLessThan(15);
});

test('the background is keyed out by a colour picked from the picture, and stays in the camera’s own track', async ({
  studio: page,
}) => {
  const place = { ...FIRST_PLACE, width: 0.4, shape: 'rectangle' as const };
  const camera = { ...(CARD_RIG.camera as NonNullable<Rig['camera']>), place };
  await armed(page, { ...CARD_RIG, appSound: null, camera });
  const lesson = page.url().split('/')[4] ?? '';
  await page.getByRole('link', { name: 'Set up', exact: true }).first().click();
  await stretch(page, 'Camera');
  await page.getByText('Chroma key').click();
  await page.getByRole('button', { name: 'Pick from the picture' }).click();
  const box = page.getByRole('group', { name: /^Camera, / });
  const seen = await box.boundingBox();
  if (!seen) throw new Error('There is no camera.');
  await box.click({ position: { x: seen.width * 0.12, y: seen.height * 0.3 } });
  const stored = async () =>
    (await rows<{ rig: Rig }>('select rig from lesson where id = $1', [lesson]))[0]?.rig.camera?.place.key;
  await expect
    .poll(async () => {
      const colour = rgb((await stored())?.colour ?? '#000000');
      return Math.max(...colour.map((level, i) => Math.abs(level - (rgb('#3fae62')[i] ?? 0))));
    })
    .toBeLessThan(8);
  await expect(page.getByText(/The preview takes \d+(\.\d)? ms\/frame here/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Record', exact: true }).first().click();
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  const { folder } = await recordFor(page, 1500);
  await finished(page);
  const [plain, screen] = [
    await pictureAt(join(folder, 'plain.mp4'), 0.8),
    await pictureAt(join(folder, 'recorded.mkv'), 0.8),
  ];
  const { at } = placeCamera({ width: 640, height: 360 }, { width: 640, height: 360 }, place);
  // Where the wall was the card is seen, at its upper edge and beside the head; the presenter is there.
  for (const [x, y] of [
    [0.06, 0.06],
    [0.12, 0.3],
    [0.9, 0.2],
  ] as const) {
    const spot = [at.x + at.width * x, at.y + at.height * y] as const;
    near(plain.at(...spot), screen.at(...spot), `beside somebody at ${x}, ${y}`, 30);
  }
  near(plain.at(at.x + at.width * 0.5, at.y + at.height * 0.95), rgb('#7a4a72'), 'somebody', 40);
});

test('a practice window is resized until it fits, and what opens outside it is said and found by a region', async ({
  studio: page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await expect(page.getByRole('img', { name: 'Live picture' })).toBeVisible();
  const lesson = page.url().split('/')[4] ?? '';
  await choose(page, 'Source', 'Practice window: Label Sheet');
  const missing = page.getByRole('status').filter({ hasText: 'One to one with 1280 × 720' });
  await expect(missing).toContainText('The window is 520 × 480: make it 760 wider and 240 taller.');
  await page.getByRole('button', { name: 'Label Sheet, size' }).focus();
  for (let i = 0; i < 76; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect(missing).toContainText('make it 240 taller.');
  for (let i = 0; i < 24; i++) await page.keyboard.press('Shift+ArrowDown');
  await expect(missing).toContainText('The window has exactly this size');
  // It stays where it was put, also after the page was left.
  await page.reload();
  await expect(missing).toContainText('The window has exactly this size');
  await expectAccessible(page);
  await choose(page, 'Source', 'Practice window: Germination Log');
  await expect(
    page.getByText('Outside the capture, and therefore missing: its list of varieties.'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Record the region of the display around the window' }).click();
  const region = page.getByRole('group', { name: /^Region / });
  await expect(region).toHaveAccessibleName(/^Region 1160 × 720 from 720, 40/);
  await expect
    .poll(
      async () =>
        (await rows<{ rig: Rig }>('select rig from lesson where id = $1', [lesson]))[0]?.rig.picture.source,
    )
    .toEqual({ from: 'practice', id: 'desk' });

  // Text sharpness after scaling, in figures and as pixels.
  await stretch(page, 'Capture area');
  await page.getByText('Full frame', { exact: true }).click();
  await stretch(page, 'Picture');
  await page.getByRole('button', { name: 'Compare', exact: true }).click();
  const clarity = async (filter: string) =>
    Number((await page.getByText(new RegExp(`^${filter} 0\\.\\d{3}$`)).textContent())?.split(' ').at(-1));
  await expect(page.getByRole('img', { name: /^After, 67 %/ })).toBeVisible({ timeout: 30_000 });
  const [browser, bilinear, lanczos] = [
    await clarity('Browser'),
    await clarity('Bilinear'),
    await clarity('Lanczos'),
  ];
  expect(browser).toBeGreaterThan(0.5);
  expect(bilinear).toBeLessThan(lanczos);
  expect(lanczos).toBeLessThan(1);
  await expectAccessible(page);
});

test('a region that follows the pointer keeps it in the picture, and moves evenly', async ({
  studio: page,
}) => {
  const [width, height] = [960, 540];
  await armed(page, {
    ...CARD_RIG,
    camera: null,
    picture: {
      ...CARD_RIG.picture,
      source: { from: 'practice', id: 'desk' },
      aim: { x: 0, y: 0, width, height },
      follow: { speed: 1500, dead: 0.3 },
      box: null,
    },
  });
  const { takeId, folder } = await recordFor(page, 12_000);
  await finished(page);
  const picture = await pictureAt(join(folder, 'recorded.mkv'), 5);
  expect([picture.width, picture.height]).toEqual([width, height]);
  const events = await rows<{ at_us: string; kind: string; data: { x: number; y: number } }>(
    "select at_us, kind, data from take_event where take_id = $1 and kind in ('pointer', 'region') order by at_us",
    [takeId],
  );
  const regions = events
    .filter(({ kind }) => kind === 'region')
    .map(({ at_us, data }) => ({ us: Number(at_us), ...data }));
  // A place of the pointer is seen in the next picture, with which the region is told when it has moved.
  const shownWith = (us: number) =>
    regions.find((each) => each.us >= us && each.us < us + 500_000) ??
    regions.findLast((each) => each.us < us);
  const places = events.filter(({ kind, at_us }) => kind === 'pointer' && shownWith(Number(at_us)));
  const inside = places.filter(({ at_us, data }) => {
    const region = shownWith(Number(at_us));
    const [x, y] = [data.x - (region?.x ?? 0), data.y - (region?.y ?? 0)];
    return x >= 0 && x < width && y >= 0 && y < height;
  });
  const steps = regions.slice(1).filter(({ us }, i) => us - (regions[i]?.us ?? 0) < 60_000);
  expect(places.length).toBeGreaterThan(30);
  expect(inside.length / places.length).toBeGreaterThanOrEqual(0.99);
  expect(steps.length).toBeGreaterThan(20);
  // Where the pointer rests at last the picture shows it: its dark arrow on light ground.
  const rest = { x: 900, y: 640 };
  const dark = (x: number, y: number) => Math.max(...late.at(x, y)) < 90;
  const late = await pictureAt(join(folder, 'recorded.mkv'), 11);
  const region = regions.at(-1);
  const [px, py] = [rest.x - (region?.x ?? 0), rest.y - (region?.y ?? 0)];
  const found = Array.from({ length: 20 }, (_, i) =>
    dark(px + 4 + (i % 4) * 2, py + 8 + Math.floor(i / 4) * 3),
  );
  expect(found.filter(Boolean).length).toBeGreaterThan(3);
});

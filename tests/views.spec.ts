// Every view in both themes, for whoever cannot see it or has no mouse.
import type { Locator, Page } from '@playwright/test';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  choose,
  expect,
  expectAccessible,
  finished,
  startRecording,
  stretch,
} from './support/studio';
import { AT_LENGTH, test } from './support/test';

/** A lesson that ships, with a take and a cut of two steps. */
async function demoLesson(): Promise<{ lesson: string; take: string }> {
  const [found] = await rows<{ lesson: string; take: string }>(
    `select lesson.id as lesson, take.id as take from lesson join take on take.lesson_id = lesson.id
     where lesson.title = 'Plan a bed rotation' and take.state = 'ready' limit 1`,
  );
  if (!found) throw new Error('The demo is not there: start the studio without --empty.');
  return found;
}

/** Views, and what is on them when they are there. */
async function views(): Promise<[address: string, there: (page: Page) => Locator][]> {
  const { lesson, take } = await demoLesson();
  return [
    ['/', (page) => page.getByRole('heading', { name: 'Lessons in the making' })],
    ['/rigs', (page) => page.getByRole('heading', { name: 'Rigs', level: 1 })],
    ['/bin', (page) => page.getByRole('heading', { name: 'Bin', level: 1 })],
    [`/lessons/${lesson}/rehearse`, (page) => page.getByRole('main')],
    [`/lessons/${lesson}/set-up`, (page) => page.getByRole('img', { name: 'Live picture' })],
    [`/lessons/${lesson}/record`, (page) => page.getByRole('button', { name: 'Record R', exact: true })],
    [`/lessons/${lesson}/edit`, (page) => page.locator('.player[data-loaded=true]')],
    [
      `/lessons/${lesson}/hand-over`,
      (page) => page.getByRole('button', { name: /^Make it for/, disabled: false }),
    ],
    [`/takes/${take}`, (page) => page.locator('.player[data-loaded=true]')],
    ['/lessons/nothing/set-up', (page) => page.getByRole('main')],
  ];
}

// A page that is not there answers 404, of which a browser speaks as an error.
test.use({ refused: /404/ });

const STRETCHES = ['Picture', 'Encode', 'File', 'Camera', 'Voice', 'App sound'];

const WIDTHS = [
  [1280, 800],
  [1680, 1050],
  [390, 800],
] as const;

/** Stages that say on a phone that they want a larger screen. */
const LARGE = /\/(set-up|record|edit)$/;

/** How far a page is wider than its window, px. */
const sideways = (page: Page) =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

/** No view is wider than its window, and none has more than one primary button. */
async function expectToFit(page: Page, address: string): Promise<void> {
  const solid = page.locator('.ant-btn-color-primary.ant-btn-variant-solid:visible');
  expect(await solid.count(), `primary buttons on ${address}`).toBeLessThanOrEqual(1);
  for (const [width, height] of WIDTHS) {
    await page.setViewportSize({ width, height });
    if (width > 390 || !LARGE.test(address)) expect(await sideways(page), `${address} at ${width}`).toBe(0);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
}

for (const light of ['day', 'night'])
  test(`every view is accessible and fits its window by ${light}`, {
    tag: light === 'night' ? AT_LENGTH : [],
  }, async ({ studio: page, baseURL }) => {
    // Some twenty views and panels, each checked when nothing moves any more.
    test.setTimeout(300_000);
    // A theme changes colours and nothing else.
    const what = light === 'day' ? 'all' : 'colours';
    await page.context().addCookies([{ name: 'light', value: light, url: baseURL ?? '' }]);
    for (const [address, there] of await views()) {
      await page.goto(address);
      await expect(there(page)).toBeVisible();
      await expect(page.locator('html')).toHaveAttribute('data-light', light);
      await expectAccessible(page, what);
      await expectToFit(page, address);
      if (!address.endsWith('/set-up') || address.includes('nothing')) continue;
      for (const name of STRETCHES) {
        await stretch(page, name);
        await expect(page.getByRole('tabpanel', { name }).locator('.ant-skeleton')).toBeHidden();
        await expectAccessible(page, what);
      }
      await page.getByRole('button', { name: 'Change the rig' }).click();
      await expect(page.getByText('Start from a purpose')).toBeVisible();
      await expectAccessible(page, what);
    }
    await page.goto('/');
    await page.getByRole('button', { name: 'Keys', exact: true }).click();
    await expect(page.getByRole('dialog', { name: 'Keyboard shortcuts' })).toBeVisible();
    await expectAccessible(page, what);
  });

const CAN_ACT = 'main :is(button, a[href], input, textarea, [tabindex="0"]), header :is(button, a[href])';

test('everything is at hand on a small screen, on a large one the room is used, and on a phone it can be watched', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const { lesson, take } = await demoLesson();
  // Edit's buttons at 1024 × 700.
  await page.setViewportSize({ width: 1024, height: 700 });
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  for (const name of [/^Play/, /^Mark in/, /^Split here/, /^Redo/])
    await expect(page.getByRole('button', { name })).toBeInViewport({ ratio: 1 });
  expect(await sideways(page)).toBe(0);
  await page.goto(`/lessons/${lesson}/set-up`);
  await expect(page.getByRole('img', { name: 'Live picture' })).toBeInViewport({ ratio: 1 });
  await expect(page.getByText('Set up needs a larger screen', { exact: false })).toBeHidden();
  for (const [width, height] of [
    [1680, 1050],
    [2560, 1440],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const address of [`/lessons/${lesson}/set-up`, `/lessons/${lesson}/edit`, `/takes/${take}`, '/']) {
      await page.goto(address);
      const room = await page.getByRole('main').boundingBox();
      expect((room?.width ?? 0) / width, `${address} at ${width}`).toBeGreaterThan(0.8);
    }
  }
  await page.setViewportSize({ width: 390, height: 800 });
  for (const address of ['/', `/takes/${take}`, `/lessons/${lesson}/hand-over`]) {
    await page.goto(address);
    const sentence = page.getByRole('region', { name: 'Verdict' }).locator('p');
    await expect(sentence).toBeVisible();
    expect((await sentence.boundingBox())?.width, address).toBeGreaterThan(240);
  }
  for (const stage of ['set-up', 'record']) {
    await page.goto(`/lessons/${lesson}/${stage}`);
    await expect(page.getByText(/^(Set up|Record) needs a larger screen/)).toBeVisible();
  }
});

/**
 * What can be acted on and was not reached, and where the focus could not be seen, on a walk with Tab through the whole page.
 * Of several radios of one name and of tabs of one list, one is reached with Tab, the others with arrows.
 */
async function walk(page: Page): Promise<{ missed: string[]; unseen: string[] }> {
  // Nothing has the focus at the beginning; what comes while the walk is under way need not be met.
  const count = await page.evaluate((can) => {
    (document.activeElement as HTMLElement | null)?.blur();
    const all = document.querySelectorAll<HTMLElement>(can);
    for (const element of all) element.dataset.there = '';
    return all.length;
  }, CAN_ACT);
  const unseen: string[] = [];
  // Some that come meanwhile are met as well.
  for (let i = 0; i < 2 * count + 20; i++) {
    await page.keyboard.press('Tab');
    const now = await page.evaluate(() => {
      const element = document.activeElement as HTMLElement | null;
      if (!element || element === document.body) return null;
      const known = element.dataset.walked !== undefined;
      element.dataset.walked = '';
      // The focus is drawn on the element, on what is drawn in its place, or before it.
      const drawn = [
        element,
        ...document.querySelectorAll('label, .ant-select, .ant-input-number, .ant-input-affix-wrapper'),
      ].filter((each) => each === element || each.contains(element));
      const look = () =>
        drawn
          .flatMap((each) => [
            getComputedStyle(each),
            getComputedStyle(each, '::before'),
            getComputedStyle(each, '::after'),
          ])
          .concat([...(element.parentElement?.children ?? [])].map((each) => getComputedStyle(each)))
          .map(({ outline, boxShadow, borderColor, backgroundColor }) =>
            [outline, boxShadow, borderColor, backgroundColor].join(),
          )
          .join();
      const focused = look();
      element.blur();
      const plain = look();
      element.focus();
      return { known, seen: focused !== plain, html: element.outerHTML.slice(0, 120) };
    });
    if (!now || now.known) break;
    if (!now.seen) unseen.push(now.html);
  }
  const missed = await page.evaluate(() => {
    const all = [...document.querySelectorAll<HTMLElement>('[data-there]')];
    const groups = new Set(
      all.flatMap((each) => (each.dataset.walked === undefined ? [] : [each.getAttribute('name')])),
    );
    return all.flatMap((element) => {
      const { width, height } = element.getBoundingClientRect();
      const hidden = width === 0 || height === 0 || !element.checkVisibility({ visibilityProperty: true });
      const off = element.matches(':disabled, [aria-disabled=true], [tabindex="-1"], [type=file]');
      if (hidden || off || element.dataset.walked !== undefined) return [];
      if (element.matches('[type=radio]') && groups.has(element.getAttribute('name'))) return [];
      return [element.outerHTML.slice(0, 140)];
    });
  });
  return { missed, unseen };
}

for (const light of ['day', 'night'] as const)
  test(`everything on every view is reached with Tab, and the focus is seen there, by ${light}`, {
    tag: AT_LENGTH,
  }, async ({ studio: page, baseURL }) => {
    // Between focused and not there is nothing then.
    await page.emulateMedia({ reducedMotion: 'reduce' });
    await page.context().addCookies([{ name: 'light', value: light, url: baseURL ?? '' }]);
    for (const [address, there] of await views()) {
      await page.goto(address);
      await expect(there(page)).toBeVisible();
      expect({ address, ...(await walk(page)) }).toEqual({ address, missed: [], unseen: [] });
    }
  });

/** Walks on with Tab until this has the focus. */
async function tabTo(page: Page, wanted: Locator): Promise<void> {
  await expect(wanted).toBeVisible();
  for (let i = 0; i < 120; i++) {
    if (await wanted.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab does not come to ${wanted}.`);
}

test('a lesson is set up, recorded, cut and handed over without a pointer', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const made = await page.request.post('/api/lessons', { data: { title: `By keys, ${Date.now()}` } });
  const { id } = await made.json();
  await page.request.patch(`/api/lessons/${id}`, { data: { rig: { ...PRACTICE_RIG, countdownS: 0 } } });
  await page.goto(`/lessons/${id}/set-up`);
  await expect(page.getByRole('img', { name: 'Live picture' })).toBeVisible();
  // Stretches by arrows, a choice by letters, a handle by arrows.
  await tabTo(page, page.getByRole('tab', { selected: true }));
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('tab', { name: /^Capture area/ })).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('tab', { name: /^Picture/ })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByRole('combobox', { name: 'Frame rate' }));
  const rate = async () =>
    (
      await rows<{ fps: number }>(
        `select rig->'picture'->'frameRate'->'num' as fps from lesson where id = $1`,
        [id],
      )
    )[0]?.fps;
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'Frame rate' })).toHaveAttribute('aria-expanded', 'true');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect.poll(rate).not.toBe(30);
  await page.goto(`/lessons/${id}/record`);
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  await page.waitForTimeout(1500);
  await page.keyboard.press('m');
  await expect(page.getByText('1 so far')).toBeVisible();
  await page.keyboard.press('p');
  await expect(page.getByRole('button', { name: 'Resume P' })).toBeVisible();
  await page.keyboard.press('p');
  await page.waitForTimeout(2500);
  await page.keyboard.press('s');
  await page.waitForURL(/\/takes\//);
  await finished(page);
  await tabTo(page, page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Edit' }));
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/edit$/);
  const player = page.locator('.player[data-loaded=true]');
  await expect(player).toBeVisible({ timeout: 20_000 });
  const place = async () => Number(await player.getAttribute('data-position'));
  await page.keyboard.press('ArrowRight');
  await expect.poll(place).toBeGreaterThan(0);
  const first = await place();
  await page.keyboard.press('i');
  await page.keyboard.press('ArrowRight');
  await expect.poll(place).toBeGreaterThan(first);
  await page.keyboard.press('o');
  // The out point is a handle: an arrow is a pixel of the strip, Shift ten.
  const edge = () =>
    page.locator('.chosen').evaluate((element) => Math.round(element.getBoundingClientRect().right));
  const before = await edge();
  await tabTo(page, page.getByRole('button', { name: 'Out point', exact: true }));
  const stood = await place();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await edge()) - before).toBe(9);
  // These arrows were the handle's; on the strip they are the player's.
  expect(await place()).toBe(stood);
  await tabTo(page, page.getByRole('slider', { name: 'Place in the video' }));
  await page.keyboard.press('ArrowLeft');
  await expect.poll(place).toBeLessThan(stood);
  await page.keyboard.press('x');
  await expect(page.locator('.seam')).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(page.locator('.seam')).toHaveCount(0);
  await page.keyboard.press('Control+y');
  await expect(page.locator('.seam')).toHaveCount(1);
  await tabTo(page, page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Hand over' }));
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByRole('button', { name: /^Make it for/ }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Parcels' })).toBeVisible();
  await expect(page.locator('.parcel')).toHaveCount(1, { timeout: 30_000 });
});

test('less motion changes nothing but motion: lists open, and a recording goes on when it is asked for', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, { ...CARD_RIG, camera: null, appSound: null });
  await startRecording(page);
  const clock = page.getByRole('timer', { name: 'Recorded' });
  await expect(clock).toHaveText(/0:0[2-9]/);
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await expect(clock).toHaveText(/0:0[4-9]/);
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.waitForURL(/\/takes\//);
  await page.getByRole('link', { name: 'Set up' }).first().click();
  await stretch(page, 'Picture');
  await choose(page, 'Frame rate', '12');
  await expect(page.getByRole('tab', { name: /^Picture/ })).toContainText('12 fps');
});

test('a key is changed in this browser, a conflict is shown and settled, and the defaults come back', async ({
  studio: page,
}) => {
  const { lesson } = await demoLesson();
  await page.goto(`/lessons/${lesson}/record`);
  const record = (key: string) => page.getByRole('button', { name: `Record ${key}`, exact: true });
  await expect(record('R')).toBeEnabled({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Keys', exact: true }).click();
  const keys = page.getByRole('dialog', { name: 'Keyboard shortcuts' });
  const key = (name: string) => keys.getByRole('button', { name: `Key for ${name}`, exact: true });
  await key('Record: Record').click();
  await page.keyboard.press('s');
  await expect(keys.getByRole('alert')).toContainText('S is the key for “Stop”.');
  await expect(key('Record: Record')).toHaveText('R');
  await keys.getByRole('button', { name: 'Use it here' }).click();
  await expect(key('Record: Record')).toHaveText('S');
  await expect(key('Record: Stop')).toHaveText('None');
  // Of the same key on another page nothing is said.
  await expect(key('Edit: Split here')).toHaveText('S');
  await key('Record: Stop').click();
  await page.keyboard.press('Tab');
  await key('Record: Stop').click();
  await page.keyboard.press(';');
  await expect(keys.getByRole('alert')).toContainText('Press a letter');
  await key('Record: Stop').click();
  await page.keyboard.press('F9');
  await expect(key('Record: Stop')).toHaveText('F9');
  await keys.getByRole('button', { name: 'Done' }).click();
  await expect(record('S')).toBeVisible();
  await page.reload();
  await expect(record('S')).toBeEnabled({ timeout: 20_000 });
  // The old key does nothing any more, the new ones do.
  await page.keyboard.press('r');
  await page.waitForTimeout(500);
  await expect(record('S')).toBeVisible();
  await page.getByRole('button', { name: 'Keys', exact: true }).click();
  await keys.getByRole('button', { name: 'Restore defaults' }).click();
  await expect(key('Record: Record')).toHaveText('R');
  await expect(key('Record: Stop')).toHaveText('S');
  await keys.getByRole('button', { name: 'Done' }).click();
  await expect(record('R')).toBeVisible();
});

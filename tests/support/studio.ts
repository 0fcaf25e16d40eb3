import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { firstAppSound, PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { FAULT_CHANNEL, type Fault, type FaultOrder } from '@/practice/faults';
import {
  RECORDER_FAULT_CHANNEL,
  type RecorderFaultOrder,
  type RecorderSlowOrder,
} from '@/recorder/worker/ordered-faults';
import { readCardFilm } from './card-film';
import { dataDir, rows } from './processes';

/** No finding of axe on the page as it is shown. @param what only its colours, where all else was looked at in the other theme */
export async function expectAccessible(page: Page, what: 'all' | 'colours' = 'all'): Promise<void> {
  // After going from page to page within the studio the title comes a moment after what is on the page.
  await expect(page).toHaveTitle(/./);
  // A colour on its way from one to another is neither; ours are there within an eighth of a second.
  await page.waitForTimeout(300);
  // Within this page, of which no frame is another's, and without a list of all that is well: a third of the time.
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
  const { violations } = await (what === 'all'
    ? axe.withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'])
    : axe.withRules(['color-contrast', 'link-in-text-block'])
  ).analyze();
  const found = violations.flatMap(({ id, nodes }) =>
    nodes.map(({ html, failureSummary }) => `${id}: ${html.slice(0, 120)} ${failureSummary}`),
  );
  expect(found).toEqual([]);
}

/** Opens a stretch of the flow in Set up, with what few people change. */
export async function stretch(page: Page, name: string): Promise<void> {
  // By its name: the middle of a stretch of the screen may lie under the camera's or a sound's.
  await page.getByRole('tab', { name: new RegExp(`^${name}`) }).click({ position: { x: 24, y: 11 } });
  const panel = page.getByRole('tabpanel', { name, exact: true });
  await expect(panel.locator('.choices .choice').first()).toBeVisible();
  const more = panel.getByRole('button', { name: /^More / });
  if ((await more.count()) > 0 && (await more.getAttribute('aria-expanded')) === 'false') await more.click();
}

/** Chooses an entry of one of the named choices in Set up. */
export async function choose(page: Page, name: string, entry: string): Promise<void> {
  const list = page.getByRole('combobox', { name, exact: true });
  const wanted = page.locator('.ant-select-dropdown:visible').getByText(entry, { exact: true });
  // A page that was only just drawn does not listen yet.
  await expect(async () => {
    if ((await list.getAttribute('aria-expanded')) !== 'true') await list.click();
    await expect(wanted).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 20_000 });
  await wanted.click();
  // A list that is still opening does not always take a click.
  await expect(async () => {
    if (await wanted.isVisible()) await wanted.click({ timeout: 2000 });
    await expect(list).toHaveAttribute('aria-expanded', 'false', { timeout: 1000 });
  }).toPass({ timeout: 15_000 });
}

/**
 * What the fault tests record: every frame of it carries its number, and both sounds can be told apart. The picture is small,
 * because what is asked is whether anything is lost and not how fast a machine encodes.
 */
export const CARD_RIG: Rig = {
  ...PRACTICE_RIG,
  picture: {
    ...PRACTICE_RIG.picture,
    source: { from: 'practice', id: 'test-card' },
    box: { width: 640, height: 360 },
  },
  camera: PRACTICE_RIG.camera && {
    ...PRACTICE_RIG.camera,
    source: { from: 'practice', id: 'presenter-green' },
  },
  appSound: { ...firstAppSound({ from: 'practice', id: 'beep' }), gainDb: 0 },
  countdownS: 0,
};

/** The same at the size that a take usually has, where finishing and rendering must take their time. */
export const FULL_CARD_RIG: Rig = {
  ...CARD_RIG,
  picture: { ...CARD_RIG.picture, box: PRACTICE_RIG.picture.box },
};

/** Opens the Record stage of a new lesson with this rig, ready to record. */
export async function armed(page: Page, rig: Rig = CARD_RIG): Promise<void> {
  const base = process.env.BASE_URL;
  // A connection that was not used for a while may be closed in the very moment in which it is used again.
  const maxRetries = 3;
  const made = await page.request.post(`${base}/api/lessons`, { data: { title: 'Fault' }, maxRetries });
  const lesson = await made.json();
  await page.request.patch(`${base}/api/lessons/${lesson.id}`, { data: { rig }, maxRetries });
  await page.goto(`${base}/lessons/${lesson.id}/record`);
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  if (rig.camera)
    await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible({ timeout: 45_000 });
  // The verdict says only what weighs most: a source that is still opening may stand behind something else.
  await expect(page.locator('main.recording[data-opening]')).toBeHidden({ timeout: 45_000 });
}

export const lessonOf = (page: Page) => new URL(page.url()).pathname.split('/')[2] ?? '';

export async function startRecording(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Record R', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible({ timeout: 15_000 });
}

/** Waits for the take's page, which a take opens when it has ended. @returns the folder of the take's files */
export async function takeOpened(page: Page): Promise<{ takeId: string; folder: string }> {
  await page.waitForURL(/\/takes\//, { timeout: 30_000 });
  const takeId = page.url().split('/').pop() ?? '';
  return { takeId, folder: takeFolder(takeId) };
}

export const takeFolder = (takeId: string): string => join(dataDir(), 'media', 'takes', takeId);

/** Records for a while from the Record stage and waits for the take's page. @returns the folder of the take's files */
export async function recordFor(
  page: Page,
  ms: number,
  during?: () => Promise<void>,
): Promise<{ takeId: string; folder: string }> {
  await startRecording(page);
  await during?.();
  await page.waitForTimeout(ms);
  await page.getByRole('button', { name: /^Stop/ }).click();
  return takeOpened(page);
}

/**
 * Records a take with each rig, one after the other, and waits for all of them at the end: finishing one costs the next no time.
 * @returns their folders, in the same order
 */
export async function recordEach(
  page: Page,
  rigs: readonly Rig[],
  ms: number,
): Promise<{ takeId: string; folder: string }[]> {
  const takes: { takeId: string; folder: string }[] = [];
  for (const rig of rigs) {
    await armed(page, rig);
    takes.push(await recordFor(page, ms));
  }
  const states = async () => {
    const jobs = await rows<{ state: string }>('select state from job where subject = any($1)', [
      takes.map(({ takeId }) => takeId),
    ]);
    return jobs.map(({ state }) => state);
  };
  await expect.poll(states, { timeout: FINISHED_MS }).toEqual(takes.map(() => 'done'));
  return takes;
}

/** A machine that is shared may stand still in between. */
const FINISHED_MS = 100_000;

/** Waits until the take is finished. */
export async function finished(page: Page): Promise<void> {
  await expect(page.getByRole('link', { name: /^Plain (video|sound)/ })).toBeVisible({
    timeout: FINISHED_MS,
  });
}

/** The number of the test card that the player shows, as soon as it is the exact picture. */
export async function shownCard(page: Page): Promise<number | null | undefined> {
  await expect(page.locator('.player[data-exact=true]')).toBeVisible();
  const folder = mkdtempSync(join(tmpdir(), 'otter-shown-'));
  try {
    const path = join(folder, 'shown.png');
    await page.locator('.player canvas').screenshot({ path });
    return (await readCardFilm(path))[0]?.frame;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Gives an order to every page and worker of the browser that listens for such. */
const broadcast = (page: Page, channel: string, order: object): Promise<void> =>
  page.evaluate(
    ([channel, order]) => {
      const orders = new BroadcastChannel(channel);
      orders.postMessage(order);
      orders.close();
    },
    [channel, order] as const,
  );

/** Makes a practice device misbehave; null makes it well again. */
export const misbehave = (page: Page, device: FaultOrder['device'], fault: Fault | null): Promise<void> =>
  broadcast(page, FAULT_CHANNEL, { device, fault } satisfies FaultOrder);

/** Has a part of the recorder fail so many times; 0 makes it well again. */
export const breakPart = (page: Page, order: RecorderFaultOrder): Promise<void> =>
  broadcast(page, RECORDER_FAULT_CHANNEL, order);

/** Makes a part of the recorder slow; 0 ms makes it quick again. */
export const slowRecorder = (page: Page, order: RecorderSlowOrder): Promise<void> =>
  broadcast(page, RECORDER_FAULT_CHANNEL, order);

/** Names of the files that a take left in the store, with ids replaced by their endings. */
export const storedFiles = (folder: string): string[] =>
  readdirSync(folder)
    .map((name) => name.replace(/^[\w-]{22}\./, '*.'))
    .sort();

export { expect };

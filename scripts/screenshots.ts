// Makes docs/screenshots again: the demo's first lesson is set up, recorded and watched.

import { mkdirSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { PURPOSES, propose } from '@/core/rig/purposes';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { launch, withProfile } from '../tests/support/browser';
import { choose, slowRecorder } from '../tests/support/studio';
import { freePort } from './cluster.mjs';
import { ensurePackages } from './debian.mjs';
import { ensureBuild } from './prepare.mjs';
import { command } from './steps.mjs';
import { startStudio } from './studio.mjs';
import { withDatabase } from './with-database.mjs';

const FOLDER = 'docs/screenshots';
const LESSON = 'Check in a returned packet';

async function shoot(page: Page, name: string): Promise<void> {
  // Notices and hovers of the step before must not be in the picture.
  await page.mouse.move(0, 0);
  await page.waitForTimeout(600);
  await page.screenshot({ path: `${FOLDER}/${name}.png` });
}

/** Five seconds into a film, when the browser’s loading indicator is gone. */
async function stand(film: Locator): Promise<void> {
  await film.evaluate(
    (video: HTMLVideoElement) =>
      new Promise((done) => {
        video.addEventListener('seeked', done, { once: true });
        video.currentTime = 5;
      }),
  );
  await film.page().waitForTimeout(2500);
}

async function night(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Dark theme' }).click();
  await page.getByRole('button', { name: 'Light theme' }).waitFor();
  await shoot(page, name);
  await page.getByRole('button', { name: 'Light theme' }).click();
}

/** Opens a stretch of the flow. @param more with what few people change */
async function stretch(page: Page, name: string, more = false): Promise<void> {
  await page.getByRole('tab', { name: new RegExp(`^${name}`) }).click({ position: { x: 24, y: 11 } });
  if (more) await page.getByRole('button', { name: /^More / }).click();
}

/** A region on the live picture, and two rigs side by side; the lesson is not changed. */
async function aimAndCompare(page: Page, url: string): Promise<void> {
  const address = page.url();
  await stretch(page, 'Capture area');
  await page.getByText('A region', { exact: true }).click();
  await shoot(page, 'aim');
  await page.getByText('Full frame', { exact: true }).click();
  // An upright picture of it, with bars, and what scaling leaves of its text.
  await stretch(page, 'Picture', true);
  await choose(page, 'Picture size', '1080 × 1080 (square)');
  await choose(page, 'Fit', 'Letterbox');
  await page.getByRole('button', { name: 'Compare', exact: true }).click();
  await page.getByRole('img', { name: /^After, / }).waitFor({ timeout: 30_000 });
  await page.evaluate('window.scrollTo(0, 0)');
  await shoot(page, 'fit');
  await choose(page, 'Picture size', '1280 × 720 (HD)');
  await choose(page, 'Fit', 'Original aspect ratio');
  await stretch(page, 'Camera');
  await choose(page, 'Device', 'Practice presenter, green wall');
  await page.getByText('Circle', { exact: true }).click();
  await page.getByText('Light', { exact: true }).click();
  await page.getByText('Chroma key').click();
  await page.getByText(/The preview takes/).waitFor();
  await page.evaluate('window.scrollTo(0, 0)');
  await shoot(page, 'camera');
  await page.getByText('Kept', { exact: true }).click();
  await page.getByText('Rounded', { exact: true }).click();
  await page.getByText('None', { exact: true }).click();
  await choose(page, 'Device', 'Practice presenter');
  await stretch(page, 'Voice');
  await page.getByRole('checkbox', { name: 'High-pass' }).check();
  await page.getByRole('button', { name: 'Speak for 5 s' }).click();
  await page.getByRole('button', { name: 'Play processed' }).waitFor({ timeout: 30_000 });
  await page
    .getByRole('region', { name: 'Sound test' })
    .evaluate((test) => test.scrollIntoView({ block: 'center' }));
  await shoot(page, 'sound');
  await page.getByRole('checkbox', { name: 'High-pass' }).uncheck();
  await stretch(page, 'File', true);
  await page.getByRole('checkbox', { name: 'MOV' }).check();
  await page.locator('.containers').evaluate((table) => table.scrollIntoView({ block: 'end' }));
  await shoot(page, 'files');
  await page.getByRole('checkbox', { name: 'MOV' }).uncheck();
  await page.evaluate('window.scrollTo(0, 0)');
  const ids: string[] = [];
  for (const kind of ['lesson', 'motion'] as const) {
    const { rig } = propose({ kind, machine: 'strong' }, PRACTICE_RIG);
    const made = await page.request.post(`${url}/api/rigs`, { data: { name: PURPOSES[kind].name, rig } });
    ids.push((await made.json()).id);
  }
  await page.goto(`${url}/rigs?a=${ids[0]}&b=${ids[1]}`);
  await page.getByRole('region', { name: /choices differ/ }).waitFor();
  await shoot(page, 'rigs');
  await page.goto(address);
  await page.getByRole('img', { name: 'Live camera' }).waitFor();
}

/** A rehearsal that stutters, and the ledger when one step has helped. */
async function rehearse(page: Page, url: string): Promise<void> {
  const made = await page.request.post(`${url}/api/lessons`, { data: { title: 'Move a bed' } });
  const { id, rig }: { id: string; rig: Rig } = await made.json();
  const picture = {
    ...{ ...rig.picture, source: { from: 'practice', id: 'window-planner' }, box: null, codec: 'h264' },
    ...{ frameRate: { num: 30, den: 1 }, textHint: 'off' },
  };
  await page.request.patch(`${url}/api/lessons/${id}`, { data: { rig: { ...rig, picture } } });
  await page.goto(`${url}/lessons/${id}/rehearse`);
  await page.getByRole('img', { name: 'Live camera' }).waitFor();
  await slowRecorder(page, { role: 'screen', slow: 'encoder', ms: 52 });
  const rehearsed = async (name: string, count: number) => {
    await page.getByRole('button', { name, exact: true }).click();
    await page.getByRole('button', { name: `Show rehearsal ${count}` }).waitFor({ timeout: 60_000 });
    await page.waitForTimeout(800);
  };
  await rehearsed('Rehearse', 1);
  await shoot(page, 'rehearse');
  await rehearsed('Try it', 2);
  await shoot(page, 'ledger');
}

/** The lesson of two takes and a slide, and a zoom of it while its area is drawn. */
async function edit(page: Page, url: string): Promise<void> {
  await page.goto(url);
  const lesson = page.getByRole('article').filter({ hasText: 'From bed plan to germination log' });
  const address = (await lesson.getByRole('link').first().getAttribute('href')) ?? '';
  await page.goto(`${url}${address.replace(/[a-z-]+$/, 'edit')}`);
  await page.locator('.player[data-loaded=true]').waitFor();
  // Its takes are finished by then.
  const isThere = () =>
    page.evaluate<boolean>(
      `document.querySelectorAll('.lane-name').length > 1 &&
        [...document.querySelectorAll('.step-picture img')].filter((image) => image.naturalWidth > 0).length === 4`,
    );
  for (let tries = 0; tries < 90 && !(await isThere()); tries++) await page.waitForTimeout(1000);
  await page.getByRole('button', { name: 'Go to Write down what came up' }).click();
  for (let n = 0; n < 40; n++) await page.keyboard.press('ArrowRight');
  await page.waitForTimeout(2500);
  await page.locator('.player[data-exact=true]').waitFor();
  await shoot(page, 'edit');
  await page.getByRole('button', { name: 'Go to Plan the bed' }).click();
  for (let n = 0; n < 60; n++) await page.keyboard.press('ArrowRight');
  await page.locator('.step-effects').getByRole('button', { name: /Zoom/ }).click();
  await page.getByRole('button', { name: /^Draw the zoom/ }).click();
  await page.getByRole('group', { name: /^Zoom \d/ }).waitFor();
  await page.waitForTimeout(1500);
  await shoot(page, 'zoom');
  // A mark behind a sentence.
  await page.getByRole('button', { name: /^Draw the zoom/ }).click();
  for (let n = 0; n < 90; n++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('a');
  await page.getByRole('button', { name: /^Proposals/ }).click();
  await page.getByRole('dialog', { name: 'Proposals' }).waitFor();
  await shoot(page, 'proposals');
}

async function journey(page: Page, url: string): Promise<void> {
  await page.goto(url);
  await page.getByRole('article').filter({ hasText: LESSON }).getByRole('link').first().click();
  await page.getByRole('img', { name: 'Live camera' }).waitFor();
  await stretch(page, 'Encode');
  // It is measured unasked once nothing is changed.
  await page.getByText(/^Measured here; bitrates on/).waitFor({ timeout: 60_000 });
  await shoot(page, 'set-up');
  await night(page, 'set-up-night');
  await aimAndCompare(page, url);
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  await page.getByRole('button', { name: 'Record R', exact: true }).click();
  await page.getByRole('button', { name: /^Stop/ }).waitFor({ timeout: 15_000 });
  await page.waitForTimeout(12_000);
  await shoot(page, 'record');
  await page.waitForTimeout(14_000);
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.getByRole('link', { name: /^Plain video/ }).waitFor({ timeout: 120_000 });
  await page.getByRole('slider', { name: 'Place in the take' }).click();
  await page.locator('.player[data-exact=true]').waitFor();
  await shoot(page, 'take');
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Edit' }).click();
  await page.locator('.player[data-exact=true]').waitFor();
  await page.getByText(/^Nobody speaks|^The video runs/).waitFor();
  const key = async (name: string) => {
    await page.keyboard.press(name);
    await page.waitForTimeout(400);
    await page.locator('.player[data-exact=true]').waitFor();
  };
  const on = 'Shift+ArrowRight';
  for (const name of [on, 's', on, on, 's']) await key(name);
  await page.getByText('Side by side').click();
  for (const name of [on, 'i', 'ArrowRight', 'ArrowRight', 'o']) await key(name);
  await page.getByText('saved', { exact: true }).waitFor();
  await page.locator('.player[data-exact=true]').waitFor();
  await page
    .getByRole('navigation')
    .getByRole('link', { name: /^Hand over/ })
    .click();
  await page.getByRole('radio', { name: /Message attachment/ }).check({ force: true });
  await page.getByText(/^About .*, between /).waitFor();
  await page.getByText('Size: extrapolated from three encoded seconds.').waitFor({ timeout: 60_000 });
  await shoot(page, 'hand-over');
  await page.getByRole('button', { name: /^Make it for/ }).click();
  await page.getByText(/^All \d+ rules met/).waitFor({ timeout: 240_000 });
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await page.getByRole('button', { name: 'Make a link' }).click();
  await page.locator('.share-link a').waitFor();
  await stand(page.locator('.opened-parcel video'));
  await page.locator('.parcels').evaluate((list) => list.scrollIntoView());
  await shoot(page, 'parcel');
  const guest = await page.context().newPage();
  await guest.goto((await page.locator('.share-link a').getAttribute('href')) ?? '');
  await stand(guest.locator('video'));
  await shoot(guest, 'share');
  await guest.close();
  await page.goto(url);
  await page
    .getByRole('article')
    .filter({ hasText: LESSON })
    .getByRole('img', { name: /Last frame/ })
    .waitFor();
  await shoot(page, 'lessons');
}

command(async () => {
  mkdirSync(FOLDER, { recursive: true });
  await ensurePackages(['postgresql', 'ffmpeg', 'poppler-utils', 'librsvg2-bin', 'chromium']);
  await ensureBuild();
  await withDatabase(async ({ data, url: databaseUrl, supervisor }) => {
    const port = await freePort();
    await startStudio({ supervisor, databaseUrl, data, port });
    await withProfile(async (profile) => {
      const browser = await launch(profile);
      const page = browser.pages()[0] ?? (await browser.newPage());
      const url = `http://127.0.0.1:${port}`;
      const only = process.argv.find((arg) => arg.startsWith('--only='))?.slice('--only='.length);
      if (!only) await journey(page, url);
      if (!only || only === 'edit') await edit(page, url);
      if (!only || only === 'rehearse') await rehearse(page, url);
      await browser.close();
    });
  });
});

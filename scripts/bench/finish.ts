// How soon a take can be watched after the stop, and what finishing costs beyond the ffmpeg commands that it runs.

import type { Page } from '@playwright/test';
import type { TakeId } from '@/core/base/ids';
import { firstAppSound, PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { launch, withProfile } from '../../tests/support/browser';
import { rows, signal } from '../../tests/support/processes';
import { bench, median, quick } from './bench';
import { noteCommands, runFfmpeg } from './commands';

const RIG: Rig = {
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, source: { from: 'practice', id: 'test-card' } },
  appSound: { ...firstAppSound({ from: 'practice', id: 'beep' }), gainDb: -15 },
  countdownS: 0,
};

/** Opens the Record stage of a new lesson and begins to record. */
async function startRecording(page: Page, url: string): Promise<void> {
  const lesson = await (await page.request.post(`${url}/api/lessons`, { data: { title: 'Finish' } })).json();
  await page.request.patch(`${url}/api/lessons/${lesson.id}`, { data: { rig: RIG } });
  await page.goto(`${url}/lessons/${lesson.id}/record`);
  await page.getByRole('img', { name: 'Live camera' }).waitFor();
  await page.getByRole('button', { name: 'Record R', exact: true }).click();
  await page.getByRole('button', { name: /^Stop/ }).waitFor();
}

/** Records by the interface. @returns seconds from the click on Stop to the first exact picture in the take's player */
async function recordAndWatch(page: Page, url: string, seconds: number) {
  await startRecording(page, url);
  await page.waitForTimeout(seconds * 1000);
  const stopped = performance.now();
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.locator('.player[data-loaded="true"][data-exact="true"]').waitFor({ timeout: 60_000 });
  const watchableS = (performance.now() - stopped) / 1000;
  await page.getByRole('link', { name: /^Plain video/ }).waitFor({ timeout: 240_000 });
  const plainS = (performance.now() - stopped) / 1000;
  return { takeId: page.url().split('/').pop() as TakeId, watchableS, plainS };
}

/** @returns seconds from the click on Stop until somebody who was sent the take's link sees its first picture */
async function recordAndLink(page: Page, url: string, seconds: number): Promise<number> {
  await startRecording(page, url);
  await page.waitForTimeout(seconds * 1000);
  const stopped = performance.now();
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.waitForURL(/\/takes\//);
  const take = page.url().split('/').pop();
  const share = await (await page.request.post(`${url}/api/shares`, { data: { take } })).json();
  const guest = await page.context().newPage();
  await guest.goto(share.url);
  await guest.waitForFunction(() => (document.querySelector('video')?.readyState ?? 0) >= 2, null, {
    timeout: 60_000,
    polling: 50,
  });
  const linkS = (performance.now() - stopped) / 1000;
  await guest.close();
  await page.getByRole('link', { name: /^Plain video/ }).waitFor({ timeout: 240_000 });
  return linkS;
}

bench('finish', { most: { ratioToBare: 1.1, stopToWatchableS: 2, stopToLinkS: 5 } }, ({ url, data }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = browser.pages()[0] ?? (await browser.newPage());
    const takes = [];
    for (const seconds of quick ? [6] : [20, 20, 60]) takes.push(await recordAndWatch(page, url, seconds));
    const linkS = await recordAndLink(page, url, quick ? 6 : 20);
    await browser.close();
    const takeId = takes.at(-1)?.takeId;
    if (!takeId) throw new Error('Nothing was recorded.');

    // The studio's own worker stands still: the job runs here, where its commands can be seen.
    signal('worker', 'SIGSTOP');
    const { finishTake } = await import('@/server/tasks/finish-take');
    const commandsOf = noteCommands(data);
    const jobS: number[] = [];
    const bareS: number[] = [];
    let count = 0;
    for (let round = 0; round < (quick ? 1 : 3); round++) {
      await rows("update job set state = 'waiting', progress = 0 where subject = $1", [takeId]);
      const ran = await commandsOf(async () => {
        const began = performance.now();
        await finishTake(takeId);
        jobS.push((performance.now() - began) / 1000);
      });
      count = ran.length;
      const bare = performance.now();
      for (const args of ran) await runFfmpeg(args);
      bareS.push((performance.now() - bare) / 1000);
    }
    signal('worker', 'SIGCONT');
    return {
      ratioToBare: median(jobS.map((s, i) => s / (bareS[i] ?? Number.NaN))),
      stopToWatchableS: median(takes.map(({ watchableS }) => watchableS)),
      // The first of a server that was just started is the slowest.
      worstToWatchableS: Math.max(...takes.map(({ watchableS }) => watchableS)),
      stopToLinkS: linkS,
      stopToPlainS: takes.at(-1)?.plainS ?? Number.NaN,
      jobS: median(jobS),
      commands: count,
    };
  }),
);

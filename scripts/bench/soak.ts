// Twenty minutes on the Record page: whether memory grows, picture and sound drift apart, or a byte changes on its way to the server.

import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { launch, withProfile } from '../../tests/support/browser';
import { beepOnsets, flashOnsets, readCardFilm, samplesOf, syncFigures } from '../../tests/support/card-film';
import { streamOf } from '../../tests/support/kept';
import { memoryMb } from '../../tests/support/processes';
import { armed, FULL_CARD_RIG, startRecording, takeOpened } from '../../tests/support/studio';
import { bench, median, quick } from './bench';
import { watchBytes } from './kept-bytes';

const MINUTES = quick ? 2 : 20;
/** Before this much of the take nothing is compared: code is still being compiled and queues are filling. */
const WARM_SHARE = 0.1;
/** What twenty minutes may grow by; two of them a tenth of it. */
const MOST_MB = (30 * MINUTES) / 20;

const goals = {
  most: { workerGrowthMb: MOST_MB, pageGrowthMb: MOST_MB, driftMs: 10 },
  least: { identical: 1 },
};

type Memory = { pageMb: number; workerMb: number; browserMb: number };

bench('soak', goals, ({ url, data }) =>
  withProfile(async (profile) => {
    process.env.BASE_URL = url;
    const browser = await launch(profile);
    const page = browser.pages()[0] ?? (await browser.newPage());
    const identical = await watchBytes(browser, url, data);
    await armed(page, FULL_CARD_RIG);
    await startRecording(page);
    const untilMs = performance.now() + MINUTES * 60_000;
    const memory: Memory[] = [];
    while (performance.now() < untilMs) {
      memory.push({ ...(await scriptMemory(page)), browserMb: memoryMb(profile) });
      await page.waitForTimeout(2000);
    }
    await page.getByRole('button', { name: /^Stop/ }).click();
    const { takeId, folder } = await takeOpened(page);
    // All of it has arrived once its tracks can be watched; the plain video of twenty minutes is not waited for.
    const film = join(folder, 'recorded.mkv');
    while (!existsSync(film)) await page.waitForTimeout(500);
    await browser.close();
    const frames = await readCardFilm(film, await streamOf(film, 'v', 'Screen'));
    const sync = syncFigures(
      flashOnsets(frames),
      beepOnsets(await samplesOf(film, await streamOf(film, 'a', 'App sound'))),
    );
    console.error(`${takeId}: ${memory.length} looks at the memory`);
    const growth = (of: (memory: Memory) => number) => grown(memory.map(of));
    return {
      workerGrowthMb: growth(({ workerMb }) => workerMb),
      pageGrowthMb: growth(({ pageMb }) => pageMb),
      browserGrowthMb: growth(({ browserMb }) => browserMb),
      driftMs: sync.driftMs,
      identical: await identical(),
      workerMb: median(memory.map(({ workerMb }) => workerMb)),
      pageMb: median(memory.map(({ pageMb }) => pageMb)),
      browserMb: median(memory.map(({ browserMb }) => browserMb)),
      offsetWorstMs: sync.worstMs,
      pairs: sync.pairs,
      minutes: MINUTES,
    };
  }),
);

type MemoryMeasurement = { breakdown: { bytes: number; attribution: { scope: string }[] }[] };

/** Memory that scripts hold, after garbage was collected: of the page, and of all its workers. */
async function scriptMemory(page: Page): Promise<Omit<Memory, 'browserMb'>> {
  const { breakdown } = await page.evaluate(() =>
    (
      performance as unknown as { measureUserAgentSpecificMemory: () => Promise<MemoryMeasurement> }
    ).measureUserAgentSpecificMemory(),
  );
  const mb = (scope: RegExp) =>
    breakdown
      .filter(({ attribution }) => attribution.some((each) => scope.test(each.scope)))
      .reduce((sum, { bytes }) => sum + bytes, 0) / 1e6;
  return { pageMb: mb(/^Window$/), workerMb: mb(/Worker/) };
}

/** The median of the last third less the one of the first, once it is warm. */
function grown(values: readonly number[]): number {
  const warm = values.slice(Math.ceil(values.length * WARM_SHARE));
  const third = Math.ceil(warm.length / 3);
  return median(warm.slice(-third)) - median(warm.slice(0, third));
}

// How long a viewer waits who seeks in a delivered file, by the distance of its keyframes: what decides how far apart they may be.

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { pictureEncoderArgs } from '@/core/commands/encoder-args';
import { FIRST_CRF } from '@/core/deliver/quality';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, openLab, percentile, quick } from './bench';
import { runFfmpeg } from './commands';
import { NATIVE, RATE, recordContent } from './contents';

const course = DESTINATIONS.find(({ id }) => id === 'course-platform') as Destination;
const SEEKS = quick ? 20 : 60;

/** From the wish to the picture, ms, at places all over a film. The browser may keep nothing of the one before: none is near. */
function seeks(page: Page, url: string, lengthS: number): Promise<number[]> {
  return page.evaluate(
    async ([url, lengthS, count]) => {
      const blob = await (await fetch(url)).blob();
      const video = document.createElement('video');
      video.muted = true;
      video.src = URL.createObjectURL(blob);
      document.body.append(video);
      await new Promise((done) => video.addEventListener('loadeddata', done, { once: true }));
      const times: number[] = [];
      for (let n = 0; n < count; n++) {
        // Steps by the golden ratio: every place comes, neighbours are far apart.
        const at = ((n * 0.618_034) % 1) * (lengthS - 0.5);
        const began = performance.now();
        video.currentTime = at;
        await new Promise((done) => video.addEventListener('seeked', done, { once: true }));
        times.push(performance.now() - began);
      }
      video.remove();
      return times;
    },
    [url, lengthS, SEEKS] as const,
  );
}

/** As attachments have them, as courses have them, and as far as an archive could bear. */
const DISTANCES_S = [8, 10, 15, 30] as const;

bench('seek', { most: { h264Every8P95Ms: 500, av1Every10P95Ms: 500 } }, ({ url, data }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = await openLab(browser, url);
    const folder = mkdtempSync(join(tmpdir(), 'otter-seek-'));
    const figures: Record<string, number> = {};
    const seconds = quick ? 30 : 60;
    try {
      const [table] = NATIVE;
      if (!table) throw new Error('There is nothing to record.');
      const content = await recordContent(page, data, folder, table, seconds);
      for (const codec of ['h264', 'av1'] as const)
        for (const keyframeEveryS of DISTANCES_S) {
          const name = `Every${keyframeEveryS}`;
          const destination = { ...course, video: { ...course.video, codecs: [codec], keyframeEveryS } };
          const path = join(folder, `${codec}${name}.mp4`);
          const args = pictureEncoderArgs(destination, RATE, FIRST_CRF.compact[codec], content.size);
          await runFfmpeg(['-y', '-i', content.take, ...args, '-movflags', '+faststart', path]);
          await page.route(`**/film-${codec}${name}.mp4`, (route) => route.fulfill({ path }));
          const times = await seeks(page, `${url}/film-${codec}${name}.mp4`, seconds);
          figures[`${codec}${name}P95Ms`] = percentile(times, 0.95);
          figures[`${codec}${name}MedianMs`] = percentile(times, 0.5);
        }
    } finally {
      rmSync(folder, { recursive: true });
      await browser.close();
    }
    return figures;
  }),
);

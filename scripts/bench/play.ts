// Seeking and playing a finished take of 1080p with camera and two sounds, at the size of the take's page.

import { firstAppSound, PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, openLab, percentile, quick } from './bench';

const RIG: Rig = {
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, source: { from: 'practice', id: 'test-card' }, box: null },
  appSound: { ...firstAppSound({ from: 'practice', id: 'beep' }), gainDb: 0 },
};

const most = { warmSeekP95Ms: 50, coldPictureP95Ms: 100, coldExactP95Ms: 200 };

bench('play', { most, least: { shownShare: 0.99 } }, ({ url, settled }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = await openLab(browser, url);
    const { takeId, durationUs } = await page.evaluate(
      async ([rig, seconds]) => {
        const { lab } = window as unknown as LabWindow;
        lab.startUploader();
        const take = await lab.record(await lab.newLesson('Play'), rig, seconds);
        await lab.finished(take.takeId);
        return { takeId: take.takeId, durationUs: take.end.durationUs };
      },
      [RIG, quick ? 10 : 63] as const,
    );
    await settled();
    // The first player of a tab: nothing of its code was ever run there.
    const first = { pictureMs: [] as number[], exactMs: [] as number[] };
    for (let n = 0; n < (quick ? 4 : 12); n++) {
      await openLab(browser, url);
      const share = 0.05 + 0.9 * ((n * 0.618) % 1);
      const cold = await page.evaluate(
        ([id, order]) => (window as unknown as LabWindow).lab.measureCold(id, order),
        [takeId, { durationUs, share }] as const,
      );
      first.pictureMs.push(cold.pictureMs);
      first.exactMs.push(cold.exactMs);
    }
    const times = await page.evaluate(
      ([id, order]) => (window as unknown as LabWindow).lab.measurePlayer(id, order),
      [takeId, { durationUs, seeks: quick ? 12 : 40, playS: quick ? 6 : 60 }] as const,
    );
    await browser.close();
    return {
      warmSeekP95Ms: percentile(times.warmMs, 0.95),
      warmSeekP50Ms: percentile(times.warmMs, 0.5),
      coldPictureP95Ms: percentile(times.coldPictureMs, 0.95),
      coldPictureP50Ms: percentile(times.coldPictureMs, 0.5),
      coldExactP95Ms: percentile(times.coldExactMs, 0.95),
      coldExactP50Ms: percentile(times.coldExactMs, 0.5),
      firstPictureP50Ms: percentile(first.pictureMs, 0.5),
      firstExactP50Ms: percentile(first.exactMs, 0.5),
      bareExactP95Ms: percentile(times.bareExactMs, 0.95),
      bareExactP50Ms: percentile(times.bareExactMs, 0.5),
      shownShare: 1 - times.missed / times.due,
      picturesDue: times.due,
    };
  }),
);

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
      bareExactP95Ms: percentile(times.bareExactMs, 0.95),
      bareExactP50Ms: percentile(times.bareExactMs, 0.5),
      shownShare: 1 - times.missed / times.due,
      picturesDue: times.due,
    };
  }),
);

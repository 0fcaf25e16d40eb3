// A minute of the test card with camera and both sounds: what was lost, and picture against sound in the finished files.

import { join } from 'node:path';
import { firstAppSound, PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import {
  beepOnsets,
  flashOnsets,
  missingNumbers,
  readCardFilm,
  samplesOf,
  syncFigures,
} from '../../tests/support/card-film';
import { streamOf } from '../../tests/support/kept';
import { bench, openLab, quick } from './bench';

const rig = (box: Rig['picture']['box'], textHint: Rig['picture']['textHint']): Rig => ({
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, source: { from: 'practice', id: 'test-card' }, box, textHint },
  appSound: { ...firstAppSound({ from: 'practice', id: 'beep' }), gainDb: 0 },
});

const most = {
  droppedShare720: 0.005,
  droppedShare1080: 0.005,
  unaccountedFrames: 0,
  avOffsetMedianMs: 10,
  avOffsetWorstMs: 25,
  avDriftMs: 5,
  plainOffsetMedianMs: 10,
  plainOffsetWorstMs: 25,
};

bench('sync', { most }, ({ url, data }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = await openLab(browser, url);
    const seconds = quick ? 8 : 60;

    const film = async (wish: Rig) => {
      const { takeId, end } = await page.evaluate(
        async ([wish, seconds]) => {
          const { lab } = window as unknown as LabWindow;
          lab.startUploader();
          const lesson = await lab.newLesson('Sync');
          const take = await lab.record(lesson, wish, seconds);
          await lab.finished(take.takeId);
          return take;
        },
        [wish, seconds] as const,
      );
      const folder = join(data, 'media', 'takes', takeId);
      const ledger = end.ledger.screen;
      if (!ledger) throw new Error('The take has no ledger of its screen.');
      const frames = await readCardFilm(join(folder, 'recorded.mkv'));
      const flashes = flashOnsets(frames);
      const sync = syncFigures(
        flashes,
        beepOnsets(
          await samplesOf(
            join(folder, 'recorded.mkv'),
            await streamOf(join(folder, 'recorded.mkv'), 'a', 'App sound'),
          ),
        ),
      );
      const plainFrames = await readCardFilm(join(folder, 'plain.mp4'));
      const plain = syncFigures(
        flashOnsets(plainFrames),
        beepOnsets(await samplesOf(join(folder, 'plain.mp4'))),
      );
      // Every number between the first and the last is in a picture, or was counted as skipped, dropped or lost before.
      const excused = ledger.skipped + ledger.dropped + (ledger.lostBefore ?? 0);
      const unaccounted =
        Math.abs(ledger.arrived - ledger.encoded - ledger.skipped - ledger.dropped) +
        Math.max(0, missingNumbers(frames).length - excused) +
        Math.abs(frames.length - ledger.encoded - ledger.repeated);
      return { ledger, sync, plain, unaccounted };
    };

    const small = await film(rig({ width: 1280, height: 720 }, 'on'));
    const large = await film(rig(null, 'automatic'));
    await browser.close();
    const worse = (a: number, b: number) => (Math.abs(a) > Math.abs(b) ? a : b);
    return {
      droppedShare720: small.ledger.dropped / small.ledger.arrived,
      droppedShare1080: large.ledger.dropped / large.ledger.arrived,
      unaccountedFrames: small.unaccounted + large.unaccounted,
      avOffsetMedianMs: worse(small.sync.medianMs, large.sync.medianMs),
      avOffsetWorstMs: worse(small.sync.worstMs, large.sync.worstMs),
      avDriftMs: worse(small.sync.driftMs, large.sync.driftMs),
      plainOffsetMedianMs: worse(small.plain.medianMs, large.plain.medianMs),
      plainOffsetWorstMs: worse(small.plain.worstMs, large.plain.worstMs),
      pairs: small.sync.pairs + large.sync.pairs,
      encodeP95Ms720: small.ledger.encodeP95Ms,
      encodeP95Ms1080: large.ledger.encodeP95Ms,
    };
  }),
);

// A take of two hours, made in minutes: every picture with its number and every sample of its tone go through the recorder's encoders
// and files, the upload and the finishing; then all of it is read again, and the player seeks in it.

import { join } from 'node:path';
import type { TakeId } from '@/core/base/ids';
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
import { keptTracks, streamOf } from '../../tests/support/kept';
import { rows } from '../../tests/support/processes';
import { bench, openLab, percentile, quick } from './bench';
import { watchBytes } from './kept-bytes';

const SECONDS = quick ? 1300 : 7200;
/** Hours of it are read in so few pixels that the number can still be told. */
const READ = { width: 320, height: 180 };
/** Picture and sound are compared in so much of its beginning, middle and end. */
const COMPARED_S = 60;

const goals = {
  most: { picturesMissing: 0, endErrorMs: 40, avOffsetWorstMs: 25, avDriftMs: 5, coldPictureP95Ms: 100 },
  least: { identical: 1 },
};

bench('long', goals, ({ url, data, settled }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = await openLab(browser, url);
    const identical = await watchBytes(browser, url, data);
    const took = stopwatch();
    const takeId = await page.evaluate(async (seconds) => {
      const { lab } = window as unknown as LabWindow;
      return lab.makeLongTake(await lab.newLesson('Two hours'), seconds);
    }, SECONDS);
    const encodeS = took();
    await page.evaluate((id) => {
      const { lab } = window as unknown as LabWindow;
      lab.startUploader();
      return lab.finished(id);
    }, takeId);
    const arriveS = took();
    await settled();
    // First: what follows keeps the machine busy for minutes.
    const times = await page.evaluate(
      ([id, order]) => (window as unknown as LabWindow).lab.measurePlayer(id, order),
      [takeId, { durationUs: SECONDS * 1e6, seeks: quick ? 12 : 40, playS: 5 }] as const,
    );
    const folder = join(data, 'media', 'takes', takeId);
    const film = join(folder, 'recorded.mkv');
    const ends = (await keptTracks(folder)).map(({ endUs }) => Math.abs(endUs / 1e6 - SECONDS) * 1000);
    const screen = await readCardFilm(film, await streamOf(film, 'v', 'Screen'), READ);
    const camera = await readCardFilm(film, await streamOf(film, 'v', 'Camera'), READ);
    const numbered = [screen, camera].map(
      (frames) => frames.filter(({ frame, ptsUs }) => frame === Math.round((ptsUs * 30) / 1e6)).length,
    );
    const sync = await syncOf(film, screen, 'App sound');
    const plain = join(folder, 'plain.mp4');
    const plainFrames = await readCardFilm(plain, 'v:0', READ);
    const plainSync = await syncOf(plain, plainFrames);
    const same = await identical();
    await browser.close();
    const worse = (a: number, b: number) => (Math.abs(a) > Math.abs(b) ? a : b);
    return {
      picturesMissing:
        missingNumbers(plainFrames).length +
        numbered.reduce((missing, found) => missing + SECONDS * 30 - found, 0),
      endErrorMs: Math.max(...ends),
      avOffsetWorstMs: worse(sync.worstMs, plainSync.worstMs),
      avDriftMs: worse(sync.driftMs, plainSync.driftMs),
      pairs: sync.pairs + plainSync.pairs,
      identical: same,
      coldPictureP95Ms: percentile(times.coldPictureMs, 0.95),
      coldExactP95Ms: percentile(times.coldExactMs, 0.95),
      warmSeekP95Ms: percentile(times.warmMs, 0.95),
      seconds: SECONDS,
      segments: await segmentsOf(takeId),
      encodeS,
      arriveS,
    };
  }),
);

/** A stopwatch: each call tells the seconds since the last one. */
function stopwatch(): () => number {
  let from = performance.now();
  return () => {
    const now = performance.now();
    const seconds = (now - from) / 1000;
    from = now;
    return seconds;
  };
}

/** Flashes against beeps in three stretches of a film. @param title of its sound; the first where there is one only */
async function syncOf(film: string, frames: Awaited<ReturnType<typeof readCardFilm>>, title?: string) {
  const stream = title ? await streamOf(film, 'a', title) : 'a:0';
  const flashes = flashOnsets(frames);
  const pairs: { flashes: number[]; beeps: number[] } = { flashes: [], beeps: [] };
  for (const fromS of [0, SECONDS / 2, SECONDS - COMPARED_S]) {
    const samples = await samplesOf(film, stream, undefined, { fromS, lengthS: COMPARED_S });
    const [fromUs, toUs] = [fromS * 1e6, (fromS + COMPARED_S) * 1e6];
    pairs.flashes.push(...flashes.filter((us) => us >= fromUs && us < toUs));
    pairs.beeps.push(...beepOnsets(samples).map((us) => us + fromUs));
  }
  return syncFigures(pairs.flashes, pairs.beeps);
}

/** Files that the take was recorded into. */
async function segmentsOf(takeId: TakeId): Promise<number> {
  const sql =
    'select count(*) as count from segment s join track t on t.id = s.track_id where t.take_id = $1';
  return Number((await rows<{ count: string }>(sql, [takeId]))[0]?.count);
}

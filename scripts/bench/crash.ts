// Kills the browser (-9) and counts what is missing, per track, when it is opened again: at random moments of a recording, and after
// Stop while the take is still being uploaded.

import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { TakeId } from '@/core/base/ids';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import { text } from '../../tests/support/card-film';
import { killBrowser } from '../../tests/support/processes';
import { bench, median, openLab, type Place, quick } from './bench';

const RIG: Rig = {
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, source: { from: 'practice', id: 'test-card' } },
};

/** How long a frame of this rig is seen; a still source repeats its last one each second. */
const LAST_FRAME_S = 1 / 30 + 0.001;

/** The last instant that is in each track's file, µs of the take's clock. */
async function lastInstants(folder: string): Promise<number[]> {
  const ends: number[] = [];
  for (const name of readdirSync(folder).filter((file) => file.endsWith('.media'))) {
    const args = [
      '-v',
      'error',
      '-show_entries',
      'packet=pts_time,duration_time',
      '-of',
      'csv=p=0',
      join(folder, name),
    ];
    const last = (await text('ffprobe', args).catch(() => '')).trim().split('\n').at(-1);
    const [pts = '', duration = ''] = last?.split(',') ?? [];
    if (pts) ends.push((Number(pts) + (Number(duration) || 0)) * 1e6);
  }
  return ends;
}

/** Opens the browser again and waits until the take has arrived. @returns the last instant of each track, µs */
async function recovered(profile: string, { url, data }: Place, takeId: TakeId): Promise<number[]> {
  const second = await launch(profile);
  const again = await openLab(second, url);
  await again.evaluate((id) => {
    const { lab } = window as unknown as LabWindow;
    lab.startUploader();
    return lab.finished(id);
  }, takeId);
  await second.close();
  const ends = await lastInstants(join(data, 'media', 'takes', takeId));
  if (ends.length !== 4) throw new Error(`${ends.length} of 4 tracks were kept.`);
  return ends;
}

/** Kills in the middle of a recording. @returns seconds that each track lost */
const killRecording = (place: Place): Promise<number[]> =>
  withProfile(async (profile) => {
    const first = await launch(profile);
    const page = await openLab(first, place.url);
    const takeId = await page.evaluate(async (rig) => {
      const { lab } = window as unknown as LabWindow;
      lab.startUploader();
      void lab.record(await lab.newLesson('Crash'), rig, 600);
      while (!lab.live.takeId) await new Promise((done) => setTimeout(done, 20));
      return lab.live.takeId;
    }, RIG);
    await page.waitForTimeout(2500 + Math.random() * 3500);
    const killedUs = await page.evaluate(() => (window as unknown as LabWindow).lab.live.elapsedUs());
    killBrowser(profile);
    await first.close().catch(() => undefined);
    const ends = await recovered(profile, place, takeId);
    return ends.map((end) => Math.max(0, (killedUs - end) / 1e6));
  });

/** Kills after Stop, when some of the take is on the server and the rest is not. @returns seconds that each track lost */
const killUpload = (place: Place): Promise<number[]> =>
  withProfile(async (profile) => {
    const first = await launch(profile);
    const page = await openLab(first, place.url);
    // A slow line: what was recorded is still being sent when the take has ended.
    await first.route('**/api/uploads/*', async (route) => {
      await new Promise((done) => setTimeout(done, 400));
      await route.continue().catch(() => undefined);
    });
    const { takeId, durationUs } = await page.evaluate(async (rig) => {
      const { lab } = window as unknown as LabWindow;
      lab.startUploader();
      const { takeId, end } = await lab.record(await lab.newLesson('Crash after stop'), rig, 4);
      return { takeId, durationUs: end.durationUs };
    }, RIG);
    await page.waitForTimeout(Math.random() * 1000);
    killBrowser(profile);
    await first.close().catch(() => undefined);
    const ends = await recovered(profile, place, takeId);
    // A track's last packet may begin a frame before the end and says nothing of its own length.
    return ends.map((end) => Math.max(0, (durationUs - end) / 1e6 - LAST_FRAME_S));
  });

bench('crash', { most: { worstLostS: 1, medianLostS: 1, worstLostAfterStopS: 0 } }, async (place) => {
  const kills = quick ? 3 : 10;
  const lost: number[] = [];
  for (let kill = 0; kill < kills; kill++) lost.push(...(await killRecording(place)));
  const killsAfterStop = quick ? 2 : 5;
  const lostAfterStop: number[] = [];
  for (let kill = 0; kill < killsAfterStop; kill++) lostAfterStop.push(...(await killUpload(place)));
  return {
    worstLostS: Math.max(...lost),
    medianLostS: median(lost),
    kills,
    tracks: lost.length,
    worstLostAfterStopS: Math.max(...lostAfterStop),
    killsAfterStop,
  };
});

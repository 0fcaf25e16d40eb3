// Kills the browser (-9) at random moments of a recording and counts what is missing, per track, when it is opened again.

import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { PRACTICE_RIG, type Rig } from '@/core/rig';
import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import { text } from '../../tests/support/card-film';
import { killBrowser } from '../../tests/support/processes';
import { bench, median, openLab, quick } from './bench';

const RIG: Rig = {
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, source: { from: 'practice', id: 'test-card' } },
};

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

bench('crash', { most: { worstLostS: 1, medianLostS: 1 } }, async ({ url, data }) => {
  const kills = quick ? 3 : 10;
  const lost: number[] = [];
  for (let kill = 0; kill < kills; kill++)
    await withProfile(async (profile) => {
      const first = await launch(profile);
      const page = await openLab(first, url);
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
      for (const end of ends) lost.push(Math.max(0, (killedUs - end) / 1e6));
    });
  return { worstLostS: Math.max(...lost), medianLostS: median(lost), kills, tracks: lost.length };
});

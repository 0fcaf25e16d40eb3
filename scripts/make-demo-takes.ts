// Records the takes that ship with the demo again (src/server/demo/takes): the practice desk, by the studio's own interface.

import { copyFile, mkdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { SegmentPart } from '@/core/recording/take';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { DemoTake, demoFile, demoTakeDir } from '@/server/demo/demo-take';
import { launch, withProfile } from '../tests/support/browser';
import { rows } from '../tests/support/processes';
import { armed, finished, recordFor } from '../tests/support/studio';
import { freePort } from './cluster.mjs';
import { ensurePackages } from './debian.mjs';
import { ensureBuild } from './prepare.mjs';
import { command } from './steps.mjs';
import { startStudio } from './studio.mjs';
import { withDatabase } from './with-database.mjs';

const windowOf = (id: 'window-planner' | 'window-log'): Rig['picture'] => ({
  ...PRACTICE_RIG.picture,
  source: { from: 'practice', id },
});

/** Small and short: they are part of the sources. */
const TAKES: { name: string; ms: number; rig: Rig }[] = [
  { name: 'bed-rotation', ms: 12_000, rig: { ...PRACTICE_RIG, picture: windowOf('window-planner') } },
  {
    name: 'germination-log',
    ms: 9000,
    rig: { ...PRACTICE_RIG, picture: windowOf('window-log'), camera: null, appSound: null },
  },
];

async function keep(name: string, takeId: string, folder: string): Promise<void> {
  const [take] = await rows<Record<string, unknown>>(
    'select rig, machine, duration_us as "durationUs", pauses, ledger, cut_off as "cutOff" from take where id = $1',
    [takeId],
  );
  const segments = await rows<Record<string, unknown> & { id: string }>(
    `select segment.id, kind as track, index, start_us as "startUs", configuration, encoder_delay_us as "encoderDelayUs",
       offset_us as "offsetUs", offset_how as "offsetHow"
     from segment join track on track.id = track_id where take_id = $1 order by track.id, index`,
    [takeId],
  );
  // Numbers of 64 bits come as text; all of these are far below 2^53.
  const asNumbers = (row: Record<string, unknown>, ...keys: string[]) => ({
    ...row,
    ...Object.fromEntries(keys.map((key) => [key, Number(row[key])])),
  });
  const kept = DemoTake.parse({
    head: { rig: take?.rig, machine: take?.machine },
    segments: segments.map((row) => asNumbers(row, 'startUs', 'offsetUs')),
    end: { ...asNumbers(take ?? {}, 'durationUs') },
  });
  const to = demoTakeDir(name);
  await rm(to, { recursive: true, force: true });
  await mkdir(to, { recursive: true });
  for (const [i, segment] of kept.segments.entries())
    for (const part of SegmentPart.options)
      await copyFile(join(folder, `${segments[i]?.id}.${part}`), join(to, demoFile(segment, part)));
  await writeFile(join(to, 'take.json'), `${JSON.stringify(kept, null, 2)}\n`);
}

async function record(page: Page): Promise<void> {
  for (const { name, ms, rig } of TAKES) {
    await armed(page, rig);
    const { takeId, folder } = await recordFor(page, ms);
    await finished(page);
    await keep(name, takeId, folder);
    console.log(`${name}: recorded`);
  }
}

command(async () => {
  await ensurePackages(['postgresql', 'ffmpeg', 'poppler-utils', 'librsvg2-bin', 'chromium']);
  await ensureBuild();
  await withDatabase(async ({ data, url: databaseUrl, supervisor }) => {
    const port = await freePort();
    await startStudio({ supervisor, databaseUrl, data, port, demo: false });
    Object.assign(process.env, {
      BASE_URL: `http://127.0.0.1:${port}`,
      DATABASE_URL: databaseUrl,
      DATA_DIR: data,
    });
    await withProfile(async (profile) => {
      const browser = await launch(profile);
      await record(browser.pages()[0] ?? (await browser.newPage()));
      await browser.close();
    });
  });
});

import type { BrowserContext, Page } from '@playwright/test';
import type { LabWindow } from '@/ui/lab/lab';
import { freePort } from '../cluster.mjs';
import { ensurePackages } from '../debian.mjs';
import { ensureBuild } from '../prepare.mjs';
import { command } from '../steps.mjs';
import { startStudio } from '../studio.mjs';
import { withDatabase } from '../with-database.mjs';
import { isBusy, rested, shareOf, ticksNow } from './idle';

export const quick = process.argv.includes('--quick');

/** `settled` waits until what was prepared is done; a machine that never rests makes the bench a busy one. */
export type Place = { url: string; data: string; settled: () => Promise<void> };

const SETTLED_S = 180;
export type Lab = LabWindow['lab'];

/** Opens the lab page and waits until it can be driven. */
export async function openLab(context: BrowserContext, url: string): Promise<Page> {
  const page = context.pages()[0] ?? (await context.newPage());
  page.on('pageerror', (error) => console.error(error.message));
  await page.goto(`${url}/lab`);
  await page.waitForFunction(() => 'lab' in window);
  return page;
}

type Figures = Record<string, number>;

/** What each figure may be at most, or must be at least. */
type Goals = { most: Figures; least?: Figures };

/** Runs a benchmark on a studio of its own and prints its one line of JSON. */
export function bench(
  name: string,
  { most, least = {} }: Goals,
  measure: (place: Place) => Promise<Figures>,
): void {
  command(async () => {
    await ensurePackages(['postgresql', 'ffmpeg', 'poppler-utils', 'librsvg2-bin', 'chromium']);
    await ensureBuild();
    await withDatabase(async ({ data, url: databaseUrl, supervisor }) => {
      let busy = await isBusy();
      const settled = async () => {
        if (!(await rested(SETTLED_S))) busy = true;
      };
      const port = await freePort();
      // Also for what of the server a bench calls in its own process.
      Object.assign(process.env, { LAB: '1', DATABASE_URL: databaseUrl, DATA_DIR: data });
      await startStudio({ supervisor, databaseUrl, data, port, demo: false });
      await settled();
      const began = ticksNow();
      const raw = await measure({ url: `http://127.0.0.1:${port}`, data, settled });
      const figures = Object.fromEntries(
        Object.entries(raw).map(([key, value]) => [key, Math.round(value * 10_000) / 10_000]),
      );
      const value = (key: string) => figures[key] ?? Number.NaN;
      const pass =
        Object.entries(most).every(([key, limit]) => Math.abs(value(key)) <= limit) &&
        Object.entries(least).every(([key, limit]) => value(key) >= limit);
      const goals = { ...most, ...least };
      // What the host of a virtual machine took meanwhile: figures of a bench that was robbed are not the studio's.
      const stolen = Math.round(shareOf('stolen', began, ticksNow()) * 1000) / 1000;
      console.log(JSON.stringify({ bench: name, figures, goals, pass, busy, stolen }));
    });
    // What of the server a bench called in its own process keeps connections open.
    process.exit(0);
  });
}

/** @param share 0…1 */
export const percentile = (values: readonly number[], share: number): number => {
  const at = Math.min(values.length - 1, Math.floor(values.length * share));
  return [...values].sort((a, b) => a - b)[at] ?? Number.NaN;
};

export const median = (values: readonly number[]): number => percentile(values, 0.5);

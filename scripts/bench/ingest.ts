// Half a gigabyte by the uploader's protocol against the same bytes in one plain PUT, to the same server.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, median, openLab, quick } from './bench';

/** Resident memory of a process, megabytes. */
function residentMb(pid: number): number {
  const kb = /^VmRSS:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1];
  return Number(kb) / 1000;
}

bench('ingest', { most: { ratioToPut: 1.3, rssGrowthMb: 100 } }, ({ url, data }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = await openLab(browser, url);
    const web = Number(readFileSync(join(data, 'run', 'web.pid'), 'utf8').split(' ')[0]);
    const send = (bytes: number, rounds: number) =>
      page.evaluate(([b, r]) => (window as unknown as LabWindow).lab.measureIngest(b, r), [
        bytes,
        rounds,
      ] as const);
    // The first request of each kind loads its code: that is no growth by data.
    await send(8_000_000, 2);
    const before = residentMb(web);
    let most = before;
    const watch = setInterval(() => {
      most = Math.max(most, residentMb(web));
    }, 50);
    const times = await send(quick ? 100_000_000 : 500_000_000, 3);
    clearInterval(watch);
    await browser.close();
    const ratios = times.map(({ uploadMs, putMs }) => uploadMs / putMs);
    const confirmed = times.map(({ uploadMs, confirmMs, putMs }) => (uploadMs + confirmMs) / putMs);
    return {
      ratioToPut: median(ratios),
      ratioConfirmedToPut: median(confirmed),
      rssGrowthMb: most - before,
      putS: median(times.map(({ putMs }) => putMs)) / 1000,
      uploadS: median(times.map(({ uploadMs }) => uploadMs)) / 1000,
      confirmS: median(times.map(({ confirmMs }) => confirmMs)) / 1000,
    };
  }),
);

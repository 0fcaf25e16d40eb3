// What a voice's treatment takes of a core while a second of sound passes: all of it, and each part.

import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, median, openLab, quick } from './bench';

bench('sound', { most: { coreShare: 0.03 } }, ({ url }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = await openLab(browser, url);
    const order = { seconds: quick ? 12 : 20, rounds: quick ? 3 : 8 };
    const ms = await page.evaluate((o) => (window as unknown as LabWindow).lab.treatmentCost(o), order);
    await browser.close();
    const share = (part: string) => median(ms[part] ?? []) / 1000;
    return {
      coreShare: share('all'),
      highPass: share('highPass'),
      denoise: share('denoise'),
      gate: share('gate'),
      compressor: share('compressor'),
    };
  }),
);

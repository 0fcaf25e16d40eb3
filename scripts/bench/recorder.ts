// Whole pipeline against a bare encoder on the same pictures: time a picture, as a ratio.

import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, median, openLab, quick } from './bench';

bench('recorder', { most: { ratio720: 1.1, ratio1080: 1.1 } }, ({ url }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = await openLab(browser, url);
    const ratio = async (width: number, height: number) => {
      const order = {
        width,
        height,
        frames: quick ? 90 : 240,
        rounds: quick ? 3 : 7,
        textHint: 'on' as const,
      };
      const times = await page.evaluate(
        (o) => (window as unknown as LabWindow).lab.bareAgainstWhole(o),
        order,
      );
      return { bareMs: median(times.bareMs), wholeMs: median(times.wholeMs) };
    };
    const [small, large] = [await ratio(1280, 720), await ratio(1920, 1080)];
    await browser.close();
    return {
      ratio720: small.wholeMs / small.bareMs,
      ratio1080: large.wholeMs / large.bareMs,
      bareMs720: small.bareMs,
      bareMs1080: large.bareMs,
    };
  }),
);

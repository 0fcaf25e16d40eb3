// What a camera circle whose wall is taken away adds to a picture that is only passed on, in ms.

import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, median, openLab, quick } from './bench';

bench('compose', { most: { addedMs1080: 3, addedMs720: 3 } }, ({ url }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = await openLab(browser, url);
    const added = async (width: number, height: number) => {
      const order = { width, height, frames: quick ? 60 : 150, rounds: quick ? 3 : 7 };
      const times = await page.evaluate((o) => (window as unknown as LabWindow).lab.composeCost(o), order);
      return median(times.composedMs) - median(times.passedMs);
    };
    const figures = { addedMs1080: await added(1920, 1080), addedMs720: await added(1280, 720) };
    await browser.close();
    return figures;
  }),
);

// Set up: how soon it answers, how soon it can be used, and how much code it needs.

import type { Page } from '@playwright/test';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, percentile, quick } from './bench';
import { PAINTS, watchPaints } from './paints';

const STEPS = quick ? 60 : 240;

async function dragBitrate(page: Page): Promise<number[]> {
  await page.getByRole('tab', { name: /^Encode/ }).click();
  const slider = page.getByRole('slider', { name: 'Bitrate' });
  await slider.waitFor();
  await page.evaluate(watchPaints('.bitrate-track', 'mousemove'));
  const [thumb, box] = [
    await slider.boundingBox(),
    await page.locator('.bitrate-track .ant-slider').boundingBox(),
  ];
  if (!box || !thumb) throw new Error('There is no slider.');
  const y = thumb.y + thumb.height / 2;
  await page.mouse.move(thumb.x + thumb.width / 2, y);
  await page.mouse.down();
  for (let i = 0; i < STEPS; i++) {
    const share = 0.5 + 0.45 * Math.sin((i / STEPS) * 6 * Math.PI);
    await page.mouse.move(box.x + share * box.width, y);
  }
  await page.mouse.up();
  return page.evaluate<number[]>(PAINTS);
}

/** A region is drawn over the live picture, in a circle and to all sides. */
async function dragRegion(page: Page): Promise<number[]> {
  await page.getByRole('tab', { name: /^Capture area/ }).click({ position: { x: 24, y: 11 } });
  await page.getByText('A region', { exact: true }).click();
  const region = page.getByRole('group', { name: /^Region / });
  const box = await region.boundingBox();
  if (!box) throw new Error('There is no region.');
  await page.evaluate(watchPaints('.region-shade', 'pointermove'));
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 0; i < STEPS; i++) {
    const turn = (i / STEPS) * 6 * Math.PI;
    await page.mouse.move(x + 40 * Math.cos(turn), y + 25 * Math.sin(turn));
  }
  await page.mouse.up();
  const paints = await page.evaluate<number[]>(PAINTS);
  await page.getByText('Full frame', { exact: true }).click();
  return paints;
}

bench('setup', { most: { dragP95Ms: 50, interactiveMs: 3000, jsKb: 600 } }, ({ url }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = browser.pages()[0] ?? (await browser.newPage());
    const made = await page.request.post(`${url}/api/lessons`, { data: { title: 'Set up' } });
    const address = `${url}/lessons/${(await made.json()).id}/set-up`;
    const visit = async () => {
      let bytes = 0;
      const session = await page.context().newCDPSession(page);
      await session.send('Network.enable');
      await session.send('Network.setCacheDisabled', { cacheDisabled: true });
      const scripts = new Set<string>();
      session.on(
        'Network.responseReceived',
        ({ requestId, type }) => type === 'Script' && scripts.add(requestId),
      );
      session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
        if (scripts.has(requestId)) bytes += encodedDataLength;
      });
      const began = performance.now();
      await page.goto(address);
      // It can be used when a stretch opens on a click and the picture is there.
      await page.getByRole('tab', { name: /^Picture/ }).click();
      await page.getByRole('combobox', { name: 'Picture size' }).waitFor();
      const interactiveMs = performance.now() - began;
      await page.getByRole('img', { name: 'Live picture' }).waitFor();
      await session.detach();
      return { interactiveMs, jsKb: bytes / 1000 };
    };
    await visit();
    const visits = [await visit(), await visit(), await visit()];
    await page.waitForTimeout(2000);
    const region = await dragRegion(page);
    const paints = await dragBitrate(page);
    await page.mouse.move(0, 0);
    const measure = page.getByRole('button', { name: /^Measure (on this source|again)$/ });
    const told = page.getByRole('status').filter({ hasText: /^(Measuring|Measured)/ });
    await measure.click();
    const began = performance.now();
    await told.filter({ hasText: 'Measuring bitrates' }).waitFor({ timeout: 60_000 });
    const encodersS = (performance.now() - began) / 1000;
    await told.filter({ hasText: 'Measured here; bitrates on' }).waitFor({ timeout: 60_000 });
    const marksS = (performance.now() - began) / 1000 - encodersS;
    await browser.close();
    return {
      // Whatever is drawn: the slower of the two.
      dragP95Ms: Math.max(percentile(paints, 0.95), percentile(region, 0.95)),
      regionP95Ms: percentile(region, 0.95),
      bitrateP95Ms: percentile(paints, 0.95),
      dragP50Ms: percentile(paints, 0.5),
      inputs: paints.length + region.length,
      interactiveMs: percentile(
        visits.map(({ interactiveMs }) => interactiveMs),
        0.5,
      ),
      jsKb: Math.min(...visits.map(({ jsKb }) => jsKb)),
      encodersS,
      marksS,
    };
  }),
);

// The strip of frames with a whole minute at 60 fps: how soon it answers to keys, to the pointer and to zooming.
import type { Page } from '@playwright/test';
import { launch, withProfile } from '../../tests/support/browser';
import { aReport } from '../../tests/support/made-up-rehearsal';
import { framesFor, LOST, traceOf } from '../../tests/support/made-up-trace';
import { bench, percentile, quick } from './bench';
import { PAINTS, watchPaints } from './paints';

const STEPS = quick ? 60 : 240;
const [SECONDS, FPS] = [60, 60];
/** The repeat interval of a key that is held. */
const REPEAT_MS = 33;

const trace = traceOf({
  targetFps: FPS,
  frames: framesFor(SECONDS, FPS, (tS, n) =>
    n % 37 === 0 ? { ...LOST, fate: 'dropped' } : { encodeMs: 6 + 6 * Math.abs(Math.sin(tS)) },
  ),
});

async function paintsOf(page: Page, input: (step: number) => Promise<void>): Promise<number[]> {
  await page.evaluate(`${PAINTS}.length = 0`);
  for (let step = 0; step < STEPS; step++) {
    await input(step);
    await page.waitForTimeout(REPEAT_MS);
  }
  return page.evaluate<number[]>(PAINTS);
}

bench('strip', { most: { inputToPaintP95Ms: 50 }, least: { frames: 3600 } }, ({ url }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = browser.pages()[0] ?? (await browser.newPage());
    const lesson = await (await page.request.post(`${url}/api/lessons`, { data: { title: 'Strip' } })).json();
    const kept = await page.request.post(`${url}/api/lessons/${lesson.id}/rehearsals`, {
      data: aReport({ trace }),
    });
    if (!kept.ok()) throw new Error(`The rehearsal was refused: ${await kept.text()}`);
    await page.goto(`${url}/lessons/${lesson.id}/rehearse`);
    const strip = page.locator('.frame-strip [role=slider]');
    await strip.waitFor();
    // The sources open beside it; what the strip costs alone is asked.
    await page.waitForTimeout(4000);
    const box = await strip.boundingBox();
    if (!box) throw new Error('There is no strip.');
    await strip.focus();
    for (const event of ['keydown', 'pointermove'])
      await page.evaluate(watchPaints('.frame-strip [role=slider]', event));
    const keys = await paintsOf(page, () => page.keyboard.press('Shift+ArrowRight'));
    const zoom = await paintsOf(page, (step) => page.keyboard.press(step % 12 < 6 ? '+' : '-'));
    const pointer = await paintsOf(page, (step) =>
      page.mouse.move(box.x + ((step * 7) % box.width), box.y + box.height / 2),
    );
    await browser.close();
    const [keysP95Ms, zoomP95Ms, pointerP95Ms] = [keys, zoom, pointer].map((all) => percentile(all, 0.95));
    return {
      inputToPaintP95Ms: percentile([...keys, ...zoom, ...pointer], 0.95),
      ...{ keysP95Ms: keysP95Ms ?? 0, zoomP95Ms: zoomP95Ms ?? 0, pointerP95Ms: pointerP95Ms ?? 0 },
      inputToPaintP50Ms: percentile([...keys, ...zoom, ...pointer], 0.5),
      zoomP50Ms: percentile(zoom, 0.5),
      frames: trace.frames.length,
      inputs: keys.length + zoom.length + pointer.length,
    };
  }),
);

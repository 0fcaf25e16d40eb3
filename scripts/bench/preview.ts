// The preview of a cut: seeking and playing with camera and zooms at 1080p, and Edit with an hour of 300 steps under the keys.
import type { Page } from '@playwright/test';
import { newStepId } from '@/core/base/ids';
import { type Cut, PLAIN_STEP } from '@/core/cut/cut';
import { firstAppSound, PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import type { LabWindow } from '@/ui/lab/lab';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, openLab, percentile, quick } from './bench';
import { PAINTS, watchPaints } from './paints';

const RIG: Rig = {
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, source: { from: 'practice', id: 'test-card' }, box: null },
  appSound: { ...firstAppSound({ from: 'practice', id: 'beep' }), gainDb: 0 },
};

const STEPS = 300;
const STEP_US = 12_000_000;
const KEYS = quick ? 60 : 240;
/** The repeat interval of a key that is held. */
const REPEAT_MS = 33;

/** An hour of steps, each twelve seconds of the same take, with all that a step can have. */
function hourOf(take: Cut['steps'][number]['pieces'][number]['take'], durationUs: number): Cut {
  const room = Math.max(1, durationUs - STEP_US);
  return {
    version: 4,
    marks: [],
    steps: Array.from({ length: STEPS }, (_, n) => {
      const inUs = (n * 1_700_000) % room;
      return {
        ...PLAIN_STEP,
        ...{ id: newStepId(), title: `Step of the hour ${n + 1}`, layout: { kind: 'screen' as const } },
        pieces: [{ take, inUs, outUs: inUs + Math.min(STEP_US, durationUs) }],
        gains: { voiceDb: 0, appSoundDb: 0 },
        zooms:
          n % 3 === 0
            ? [
                {
                  ...{ fromUs: 2_000_000, toUs: 8_000_000, easeUs: 600_000 },
                  area: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 },
                },
              ]
            : [],
        entry: n % 5 === 0 && n > 0 ? { kind: 'dissolve' as const, lengthUs: 600_000 } : null,
      };
    }),
  };
}

async function paintsOf(page: Page, press: (n: number) => string): Promise<number[]> {
  await page.evaluate(`${PAINTS}.length = 0`);
  for (let n = 0; n < KEYS; n++) {
    await page.keyboard.press(press(n));
    await page.waitForTimeout(REPEAT_MS);
  }
  return page.evaluate<number[]>(PAINTS);
}

bench(
  'preview',
  { most: { warmSeekP95Ms: 50, inputToPaintP95Ms: 50 }, least: { shownShare: 0.98 } },
  ({ url, settled }) =>
    withProfile(async (profile) => {
      const browser = await launch(profile);
      const page = await openLab(browser, url);
      const { takeId, lessonId, durationUs } = await page.evaluate(
        async ([rig, seconds]) => {
          const { lab } = window as unknown as LabWindow;
          lab.startUploader();
          const lessonId = await lab.newLesson('Preview');
          const take = await lab.record(lessonId, rig, seconds);
          await lab.finished(take.takeId);
          return { takeId: take.takeId, lessonId, durationUs: take.end.durationUs };
        },
        [RIG, quick ? 14 : 63] as const,
      );
      await settled();
      const times = await page.evaluate(
        ([id, order]) => (window as unknown as LabWindow).lab.measurePlayer(id, order),
        [takeId, { durationUs, seeks: quick ? 8 : 24, playS: quick ? 8 : 60, isZoomed: true }] as const,
      );
      const put = await page.request.put(`${url}/api/lessons/${lessonId}/cut`, {
        data: { cut: hourOf(takeId, durationUs), revision: 0 },
      });
      if (!put.ok()) throw new Error(`The cut was refused: ${await put.text()}`);
      await page.setViewportSize({ width: 1280, height: 800 });
      await page.goto(`${url}/lessons/${lessonId}/edit`);
      await page.locator('.player[data-loaded=true]').waitFor({ timeout: 60_000 });
      // Pictures of the steps are on their way.
      await settled();
      await page.evaluate(watchPaints('body', 'keydown'));
      const steps = await paintsOf(page, (n) => (n % 20 < 10 ? 'ArrowRight' : 'ArrowLeft'));
      const marks = await paintsOf(page, (n) => ['i', 'Shift+ArrowRight', 'o', 'Escape'][n % 4] ?? 'i');
      await browser.close();
      const all = [...steps, ...marks];
      return {
        warmSeekP95Ms: percentile(times.warmMs, 0.95),
        warmSeekP50Ms: percentile(times.warmMs, 0.5),
        shownShare: 1 - times.missed / times.due,
        picturesDue: times.due,
        inputToPaintP95Ms: percentile(all, 0.95),
        inputToPaintP50Ms: percentile(all, 0.5),
        framesP95Ms: percentile(steps, 0.95),
        jumpsP95Ms: percentile(
          marks.filter((_, n) => n % 4 === 1),
          0.95,
        ),
        rangesP95Ms: percentile(
          marks.filter((_, n) => n % 4 !== 1),
          0.95,
        ),
        steps: STEPS,
      };
    }),
);

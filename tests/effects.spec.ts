// Every effect of a step in the player, compared with the delivered file frame by frame.
import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Page } from '@playwright/test';
import { newStepId, type TakeId } from '@/core/base/ids';
import { at, type Cut, cutLengthUs, PLAIN_STEP, placedSteps, type Step } from '@/core/cut/cut';
import { UNCHANGED, UNCHANGED_LOOKS } from '@/core/cut/looks';
import { beepOnsets, flashOnsets, readCardFilm, samplesOf, syncFigures, text } from './support/card-film';
import { broken, destination, fileOf, made, saveCut } from './support/delivering';
import { complaints } from './support/kept';
import { armed, expect, FULL_CARD_RIG, finished, lessonOf, recordFor } from './support/studio';
import { AT_LENGTH, test } from './support/test';

test.describe.configure({ timeout: 300_000 });

const SIZE = { width: 1280, height: 720 };
const PIECE_US = 1_500_000;

/** A step of the take's n-th second and a half. */
const step = (take: TakeId, n: number, title: string, change: Partial<Step>): Step => ({
  ...PLAIN_STEP,
  ...{ id: newStepId(), title, layout: { kind: 'screen' }, gains: { voiceDb: 0, appSoundDb: 0 } },
  pieces: [{ take, inUs: 300_000 + n * PIECE_US, outUs: 300_000 + (n + 1) * PIECE_US }],
  ...change,
});

const AREA = { x: 0.05, y: 0.55, width: 0.3, height: 0.2 };

/** Every effect once, in steps of their own. */
function cutOf(take: TakeId): Cut {
  const place = FULL_CARD_RIG.camera?.place;
  if (!place) throw new Error('The rig has a camera.');
  const held = { take, heldUs: 5_600_000, inUs: 5_600_000, outUs: 6_600_000 };
  return {
    version: 4,
    marks: [],
    steps: [
      step(take, 0, 'Zoom', {
        layout: { kind: 'corner', place },
        zooms: [
          {
            fromUs: 200_000,
            toUs: PIECE_US,
            area: { x: 0.1, y: 0.3, width: 0.4, height: 0.4 },
            easeUs: 600_000,
          },
        ],
      }),
      step(take, 1, 'Blur', { covers: [{ fromUs: 0, toUs: PIECE_US, area: AREA, kind: 'blur' }] }),
      step(take, 2, 'Solid', { covers: [{ fromUs: 0, toUs: PIECE_US, area: AREA, kind: 'colour' }] }),
      step(take, 3, 'Held', { pieces: [{ take, inUs: 4_800_000, outUs: 5_600_000 }, held] }),
      step(take, 4, 'Fast', { speed: 2 }),
      step(take, 5, 'Bright', {
        looks: {
          ...UNCHANGED_LOOKS,
          screen: { ...UNCHANGED, brightness: 0.8, contrast: 0.8, saturation: 0.5 },
        },
      }),
      step(take, 0, 'Dissolved', { entry: { kind: 'dissolve', lengthUs: 1_000_000 } }),
      step(take, 1, 'Dipped', { entry: { kind: 'dip', lengthUs: 1_000_000 } }),
      // As recorded again, for as long as it takes to hear whether sound and picture are still together.
      step(take, 0, 'Plain', { pieces: [{ take, inUs: 300_000, outUs: 9_300_000 }] }),
    ],
  };
}

/** Structural similarity of two pictures (ffmpeg's own, not ours). */
async function ssim(a: string, b: string, crop = ''): Promise<number> {
  const same = `format=yuv420p${crop}`;
  const graph = `[1:v][0:v]scale2ref=flags=bicubic[b][a];[a]${same}[c];[b]${same}[d];[c][d]ssim`;
  const { stderr } = await promisify(execFile)('ffmpeg', [
    ...['-hide_banner', '-i', a, '-i', b, '-lavfi', graph, '-f', 'null', '-'],
  ]);
  return Number(/All:([\d.]+)/.exec(stderr)?.[1]);
}

/** Shows the player pixel for pixel, over everything else: no scaling stands between two pictures. */
const enlarge = (page: Page) =>
  page.locator('.player .screen').evaluate((element: HTMLElement) => {
    Object.assign(element.style, {
      ...{ position: 'fixed', inset: '0 auto auto 0', width: '1280px', height: '720px', maxHeight: 'none' },
      ...{ borderRadius: '0', pointerEvents: 'none', zIndex: '99' },
    });
  });

/** Goes to a place of the video as somebody does who types it. */
async function goTo(page: Page, us: number): Promise<void> {
  const frames = Math.round((us * 30) / 1e6);
  const field = page.getByRole('textbox', { name: 'Time code' });
  const [s, f] = [Math.floor(frames / 30), frames % 30];
  await field.fill(`0:${String(s).padStart(2, '0')}:${String(f).padStart(2, '0')}`);
  await field.press('Enter');
  await expect(page.locator('.player[data-exact=true]')).toBeVisible();
  await expect
    .poll(async () => Math.abs(Number(await page.locator('.player').getAttribute('data-position')) - us))
    .toBeLessThan(40_000);
  await expect(page.locator('.player[data-exact=true]')).toBeVisible();
}

test('zoom, covers, held frame, speed, colours and transitions are delivered as the player shows them; lengths and sound are right', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, FULL_CARD_RIG);
  const lesson = lessonOf(page);
  const { takeId, folder: takeFolder } = await recordFor(page, 10_500);
  await finished(page);
  const cut = cutOf(takeId as TakeId);
  await saveCut(page, lesson, cut);
  const parcel = await made(page, lesson, destination('hd-video-host'));
  expect([parcel.plan.way, broken(parcel)]).toEqual(['encode', []]);
  const file = fileOf(parcel);
  expect(await complaints(file)).toBe('');
  const film = await readCardFilm(file);
  // Exact to the frame.
  expect(film.length).toBe(Math.round((cutLengthUs(cut) * 30) / 1e6));

  const folder = mkdtempSync(join(tmpdir(), 'otter-effects-'));
  const framePng = async (n: number) => {
    const path = join(folder, `frame${n}.png`);
    // Half a frame before it: the first picture from there on is the one.
    const from = ['-ss', String(Math.max(0, (n - 0.5) / 30)), '-i', file, '-frames:v', '1', path];
    await text('ffmpeg', ['-v', 'error', '-y', ...from]);
    return path;
  };
  try {
    await page.setViewportSize({ width: 1400, height: 900 });
    await page.goto(`/lessons/${lesson}/edit`);
    await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
    await enlarge(page);
    for (const { step, startUs, endUs } of placedSteps(cut))
      for (const share of [0.3, 0.8]) {
        const us = Math.round(startUs + (endUs - startUs) * share);
        await goTo(page, us);
        const shown = join(folder, 'shown.png');
        await page.locator('.player canvas').screenshot({ path: shown });
        const positionUs = Number(await page.locator('.player').getAttribute('data-position'));
        const results: number[] = [];
        // The border between two frames of the file may lie a hair beside the player's.
        for (const beside of [-1, 0, 1])
          results.push(await ssim(shown, await framePng(Math.round((positionUs * 30) / 1e6) + beside)));
        expect(Math.max(...results), `${step.title} at ${share}`).toBeGreaterThanOrEqual(0.97);
      }

    // The covered area: what is left of it resembles nothing of what was there.
    const [blurred, solid] = placedSteps(cut).slice(1, 3);
    const crop = `,crop=${AREA.width * SIZE.width}:${AREA.height * SIZE.height}:${AREA.x * SIZE.width}:${AREA.y * SIZE.height}`;
    for (const placed of [blurred, solid]) {
      if (!placed) throw new Error('There are such steps.');
      const us = (placed.startUs + placed.endUs) / 2;
      const { takeUs } = at(cut, us);
      const before = join(folder, 'before.png');
      const recorded = join(takeFolder, 'recorded.mkv');
      const from = ['-ss', String(takeUs / 1e6), '-i', recorded, '-map', '0:v:0', '-frames:v', '1', before];
      await text('ffmpeg', ['-v', 'error', '-y', ...from]);
      expect(
        await ssim(before, await framePng(Math.round((us * 30) / 1e6)), crop),
        placed.step.title,
      ).toBeLessThan(0.7);
    }
  } finally {
    rmSync(folder, { recursive: true });
  }

  // A picture that is held stands to the frame, and everything after it is in sync.
  const frames = film.map(({ frame }) => frame);
  const [, , , held] = placedSteps(cut);
  const from = Math.round((((held?.endUs ?? 0) - 1_000_000) * 30) / 1e6);
  expect(new Set(frames.slice(from, from + 30)).size).toBe(1);
  const sync = syncFigures(flashOnsets(film), beepOnsets(await samplesOf(file)));
  expect(sync.pairs).toBeGreaterThanOrEqual(3);
  expect(Math.abs(sync.medianMs)).toBeLessThanOrEqual(20);
});

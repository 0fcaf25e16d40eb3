// A lesson made of two takes and a slide, by the interface alone; what is delivered is what was made, frame by frame and sample by sample.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { frameTimeUs } from '@/core/base/rational';
import { evenRect, viewAt, views } from '@/core/cut/area';
import { at, type Cut, cutLengthUs, hereIn, placedSteps, stepTimeUs } from '@/core/cut/cut';
import { openedAt } from '@/core/cut/opening';
import { type TextClarity, textClarity } from '@/core/image/clarity';
import {
  beepOnsets,
  flashOnsets,
  pixelOf,
  rawOf,
  readCardFilm,
  samplesOf,
  syncFigures,
  text,
} from './support/card-film';
import { broken, destination, fileOf, made, storedCut } from './support/delivering';
import { complaints, streamOf } from './support/kept';
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  expect,
  expectAccessible,
  finished,
  lessonOf,
  recordFor,
  takeFolder,
} from './support/studio';
import { AT_LENGTH, test } from './support/test';

// The waveform of a take that has just ended is asked for until it is made.
// A file that is none is refused, too.
test.use({ refused: /404|422/ });

const RATE = { num: 30, den: 1 };
const FRAME_US = 1e6 / 30;

/** Does something in Edit and waits until it is kept. */
async function edited(page: Page, lesson: string, what: () => Promise<unknown>): Promise<Cut> {
  const before = JSON.stringify(await storedCut(lesson));
  await what();
  await expect.poll(async () => JSON.stringify(await storedCut(lesson))).not.toBe(before);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  return storedCut(lesson);
}

/** Goes to a place of the video as somebody does who types it. */
async function goTo(page: Page, seconds: number): Promise<void> {
  const field = page.getByRole('textbox', { name: 'Time code' });
  await field.fill(`0:${String(seconds).padStart(2, '0')}:00`);
  await field.press('Enter');
  await expect(page.locator('.player[data-exact=true]')).toBeVisible();
}

const open = (page: Page, name: string) =>
  page
    .locator('.step-effects')
    .getByRole('button', { name: new RegExp(`^(expanded|collapsed)? ?${name}`) })
    .click();

/** How clear text still is in a covered area, shortly before its step ends. */
async function coveredText(cut: Cut, file: string): Promise<TextClarity> {
  const placed = placedSteps(cut).find(({ step }) => step.covers.length > 0);
  const [cover] = placed?.step.covers ?? [];
  if (!placed || !cover) throw new Error('The cut covers nothing.');
  const us = placed.endUs - 500_000;
  const { piece, takeUs } = hereIn(at(cut, us), us);
  const { x, y, width, height } = evenRect(cover.area, CARD_RIG.picture.box ?? { width: 0, height: 0 });
  const luma = async (path: string, atUs: number, stream: string) => {
    const raw = await rawOf(path, atUs / 1e6, stream, `crop=${width}:${height}:${x}:${y},format=yuv420p`);
    return { width, height, data: raw.subarray(0, width * height) };
  };
  const recorded = join(takeFolder(piece.take), 'recorded.mkv');
  return textClarity(
    await luma(recorded, takeUs, await streamOf(recorded, 'v', 'Screen')),
    await luma(file, us, 'v:0'),
  );
}

/** How long the takes are, where the stumble is, and how many frames and flashes of the video can be told from the takes'. */
type Lengths = {
  firstMs: number;
  secondMs: number;
  stumbleS: [number, number];
  leastS: number;
  frames: number;
  flashes: number;
};
const SHORT: Lengths = {
  ...{ firstMs: 9000, secondMs: 4000, stumbleS: [3, 5] },
  ...{ leastS: 10, frames: 120, flashes: 1 },
};
const TWO_MINUTES: Lengths = {
  ...{ firstMs: 80_000, secondMs: 70_000, stumbleS: [20, 28] },
  ...{ leastS: 120, frames: 2500, flashes: 25 },
};

test('two takes and a slide: a stumble replaced, a zoom, a held frame, a sped-up step, a blurred field and a dissolve', async ({
  studio: page,
}) => {
  test.setTimeout(300_000);
  await madeAndDelivered(page, SHORT);
});

test('two minutes of it are as exact', { tag: AT_LENGTH }, async ({ studio: page }) => {
  test.setTimeout(1_200_000);
  await madeAndDelivered(page, TWO_MINUTES);
});

async function madeAndDelivered(page: Page, lengths: Lengths): Promise<void> {
  await armed(page);
  const lesson = lessonOf(page);
  const [stumbleS, wellAgainS] = lengths.stumbleS;
  const { takeId: first } = await recordFor(page, lengths.firstMs - stumbleS * 1000, async () => {
    await page.waitForTimeout(stumbleS * 1000);
    await page.keyboard.press('m');
  });
  await finished(page);
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  await page.getByRole('textbox', { name: 'Title of step 1' }).fill('Fill in the form');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Add a take' }).click();
  await page.getByRole('menuitem', { name: 'Record another take' }).click();
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  const { takeId: second } = await recordFor(page, lengths.secondMs);
  await finished(page);
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();

  // The stumble goes, and the second take comes in its place.
  await goTo(page, stumbleS);
  await page.keyboard.press('i');
  await goTo(page, wellAgainS);
  await page.keyboard.press('o');
  await edited(page, lesson, () => page.keyboard.press('x'));
  await page.getByRole('button', { name: 'Add a take' }).click();
  const replaced = await edited(page, lesson, () =>
    page.getByRole('menuitem', { name: /^Second take/ }).click(),
  );
  expect(replaced.steps.map(({ pieces }) => pieces.map(({ take }) => take))).toEqual([
    [first],
    [second],
    [first],
  ]);

  // A zoom in the first step, whose area is drawn by keys.
  await goTo(page, 1);
  await open(page, 'Zoom');
  await edited(page, lesson, () => page.getByRole('button', { name: 'Zoom in here' }).click());
  const area = page.getByRole('group', { name: /^Zoom 320 × 180 from/ });
  await area.focus();
  await edited(page, lesson, () => page.keyboard.press('Shift+ArrowRight'));
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Draw the zoom/ }).click();

  // A field is blurred in the second step, and it dissolves in.
  await page.getByRole('button', { name: 'Go to Step 2' }).click();
  await open(page, 'Covers');
  await edited(page, lesson, () => page.getByRole('button', { name: 'Cover an area' }).click());
  await page.getByRole('button', { name: /^Draw the cover/ }).click();
  await page.getByRole('tab', { name: 'Time' }).click();
  await page.getByRole('combobox', { name: 'Transition' }).click();
  await edited(page, lesson, () =>
    page.locator('.ant-select-dropdown:visible').getByText('Dissolve', { exact: true }).click(),
  );

  // The last step runs at twice the speed, and its beginning is held.
  await page.getByRole('button', { name: 'Go to Step 3' }).click();
  await page.getByRole('combobox', { name: 'Step speed' }).click();
  await edited(page, lesson, () =>
    page.locator('.ant-select-dropdown:visible').getByText('2×', { exact: true }).click(),
  );
  await edited(page, lesson, () => page.getByRole('button', { name: 'Hold', exact: true }).click());

  // A slide before everything.
  const folder = mkdtempSync(join(tmpdir(), 'otter-lesson-'));
  try {
    const slide = join(folder, 'Sowing plan.png');
    await text('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'color=c=#2e7d6b:s=640x360',
      '-frames:v',
      '1',
      slide,
    ]);
    await goTo(page, 0);
    await page
      .getByLabel('File to import')
      .setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('beans') });
    await expect(page.getByText(/^notes\.txt: This file cannot be read as video or sound\./)).toBeVisible();
    await page.getByLabel('File to import').setInputFiles({
      name: 'Sowing plan.png',
      mimeType: 'image/png',
      buffer: readFileSync(slide),
    });
    await expect(page.getByRole('textbox', { name: 'Title of step 1' })).toHaveValue('Sowing plan', {
      timeout: 60_000,
    });
    await expect(page.getByText('saved', { exact: true })).toBeVisible();
  } finally {
    rmSync(folder, { recursive: true });
  }
  await expectAccessible(page);
  const cut = await storedCut(lesson);
  expect(cut.steps.map(({ title }) => title)).toEqual(['Sowing plan', 'Fill in the form', '', '']);
  expect(cutLengthUs(cut)).toBeGreaterThan(lengths.leastS * 1e6);

  // A slide that was brought in a moment ago may still be on its way to a finished take.
  const unfinished = () => rows(`select id from take where lesson_id = $1 and state <> 'ready'`, [lesson]);
  await expect.poll(unfinished, { timeout: 60_000 }).toEqual([]);

  // The delivered file is the cut, frame by frame.
  const parcel = await made(page, lesson, destination('hd-video-host'));
  expect([parcel.plan.way, broken(parcel)]).toEqual(['encode', []]);
  const file = fileOf(parcel);
  expect(await complaints(file)).toBe('');
  const film = await readCardFilm(file);
  expect(film.length).toBe(Math.round((cutLengthUs(cut) * 30) / 1e6));
  const recorded = new Map(
    await Promise.all(
      [first, second].map(
        async (take) => [take, await readCardFilm(join(takeFolder(take), 'recorded.mkv'))] as const,
      ),
    ),
  );
  let compared = 0;
  for (const [n, { frame }] of film.entries()) {
    const us = frameTimeUs(n, RATE);
    // A piece begins on the frame that is nearest to its border.
    const here = hereIn(at(cut, us + FRAME_US / 2), us);
    const own = recorded.get(here.piece.take);
    // The first step is a slide: nothing in it is a number of the card.
    if (!own) {
      expect(frame, `frame ${n}`).toBeNull();
      continue;
    }
    const isWhole = viewAt(views(here.step.zooms, stepTimeUs(here.step)), here.hereUs).width === 1;
    // What a take begins with is whatever stood there before.
    if (!isWhole || openedAt(here, us) || here.takeUs < 100_000) continue;
    // A piece is moved by up to half a frame onto the video's grid, and each of its pictures by up to another half.
    const [first, last] = [-FRAME_US, FRAME_US].map((beside) =>
      own.findLastIndex(({ ptsUs }) => ptsUs <= here.takeUs + beside + 1),
    );
    const around = own.slice(first, (last ?? 0) + 1).map((each) => each.frame);
    expect(around, `frame ${n} of ${here.step.title || 'a step'}`).toContain(frame);
    compared++;
  }
  expect(compared).toBeGreaterThan(lengths.frames);

  // Of what is covered, nothing can be read.
  const covered = await coveredText(cut, file);
  expect(covered.windows).toBeGreaterThan(20);
  expect(covered.mean).toBeLessThan(0.6);

  // Sound goes with its picture, after every joint: beside the zoom and what runs fast, flashes and beeps are the take's own.
  const sync = syncFigures(flashOnsets(film), beepOnsets(await samplesOf(file)));
  expect(sync.pairs).toBeGreaterThanOrEqual(lengths.flashes);
  expect(Math.abs(sync.medianMs)).toBeLessThanOrEqual(20);
  expect(Math.abs(sync.worstMs)).toBeLessThanOrEqual(35);
  // The slide is seen, in its own colour, and is silent.
  const shown = await pixelOf(file, 2, { x: 320, y: 180 });
  for (const [i, level] of [0x2e, 0x7d, 0x6b].entries())
    expect(Math.abs((shown[i] ?? -99) - level)).toBeLessThanOrEqual(8);
  const samples = await samplesOf(file);
  const silent = (fromUs: number, toUs: number) =>
    samples
      .slice(Math.round((fromUs * 48) / 1000), Math.round((toUs * 48) / 1000))
      .every((value) => Math.abs(value) < 0.002);
  const [slide] = placedSteps(cut);
  expect(silent(100_000, (slide?.endUs ?? 0) - 100_000)).toBe(true);
}

// Cutting a take: playback shows exactly the frames that were kept.
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { frameTimeUs } from '@/core/base/rational';
import { Cut, cutLengthUs } from '@/core/cut/cut';
import { launch } from './support/browser';
import { readCardFilm, samplesOf } from './support/card-film';
import { streamOf } from './support/kept';
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  expect,
  expectAccessible,
  finished,
  misbehave,
  recordFor,
  shownCard,
} from './support/studio';
import { test } from './support/test';

const position = async (page: Page) => Number(await page.locator('.player').getAttribute('data-position'));

/** When the first word of a take begins, how long it goes on after the last, and how long its voice is. */
async function spokenIn(film: string): Promise<{ firstS: number; afterS: number; lengthS: number }> {
  const samples = await samplesOf(film, await streamOf(film, 'a', 'Voice'));
  const words: { startS: number; endS: number }[] = [];
  samples.forEach((sample, i) => {
    if (Math.abs(sample) <= 0.01) return;
    const atS = i / 48_000;
    const word = words.at(-1);
    if (word && atS - word.endS <= 0.3) word.endS = atS;
    else words.push({ startS: atS, endS: atS });
  });
  // The voice is silenced wherever it is in its script: what is left of a word after a breath may be as short as a click, and counts as one.
  const spoken = words.filter(({ startS, endS }) => endS - startS >= 0.24);
  const lengthS = samples.length / 48_000;
  return { firstS: spoken[0]?.startS ?? 0, afterS: lengthS - (spoken.at(-1)?.endS ?? 0), lengthS };
}

/** The lesson's cut as the server has it. */
async function storedCut(lesson: string): Promise<Cut | null> {
  const [row] = await rows<{ document: unknown }>('select document from cut where lesson_id = $1', [lesson]);
  return row ? Cut.parse(row.document) : null;
}

test('a take is trimmed by one key, parted, laid out and put back, and another tab cannot overwrite it', async ({
  profile,
}) => {
  // A refused save is an error of the page to the browser, and here it is wanted.
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  await armed(page);
  const lesson = new URL(page.url()).pathname.split('/')[2] ?? '';
  // Nobody speaks for the first two seconds and the last two.
  await misbehave(page, 'voice', { kind: 'silent' });
  const { folder } = await recordFor(page, 2200, async () => {
    // The script's voice pauses for breath at 3.2 s: it must be heard before that.
    await page.waitForTimeout(1500);
    await misbehave(page, 'voice', null);
    await page.waitForTimeout(4500);
    await misbehave(page, 'voice', { kind: 'silent' });
  });
  await finished(page);
  const frames = await readCardFilm(join(folder, 'recorded.mkv'));
  const numberAt = (takeUs: number) => frames.findLast(({ ptsUs }) => ptsUs <= takeUs)?.frame;
  /** Where so many frames of the take's rate come to: each press is one, whether anything moved meanwhile or not. */
  const framesUs = (n: number) => frameTimeUs(n, CARD_RIG.picture.frameRate);

  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  const verdict = page.getByText(/^Nobody speaks for \d+\.\d s before the first word and \d+\.\d s after/);
  await expect(verdict).toBeVisible();
  await expectAccessible(page);
  // Beside what the recorded samples say: a breath before the first word is left, and a moment after the last.
  const spoken = await spokenIn(join(folder, 'recorded.mkv'));
  const [headS = 0, tailS = 0] = [...((await verdict.textContent()) ?? '').matchAll(/\d+\.\d/g)].map(Number);
  expect(Math.abs(headS - (spoken.firstS - 0.35))).toBeLessThan(0.3);
  expect(Math.abs(tailS - (spoken.afterS - 0.6))).toBeLessThan(0.4);
  await page.keyboard.press('h');
  await expect(page.getByText(/^The video runs 0:\d\d/)).toBeVisible();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const trimmed = await storedCut(lesson);
  const head = trimmed?.steps[0]?.pieces[0];
  expect(Math.abs((head?.inUs ?? 0) / 1e6 - headS)).toBeLessThan(0.06);
  expect(Math.abs(cutLengthUs(trimmed as Cut) / 1e6 - (spoken.lengthS - headS - tailS))).toBeLessThan(0.15);
  await page.keyboard.press('Home');
  await expect.poll(() => shownCard(page)).toBe(numberAt(head?.inUs ?? 0));

  // Zoomed in, the strip is wider than its frame and the playhead stays in sight.
  const frame = page.getByRole('region', { name: 'Steps and sounds' });
  for (const key of ['End', 'ArrowUp', 'ArrowUp']) await page.keyboard.press(key);
  const zoomed = () => frame.evaluate((box) => Math.round(box.scrollWidth / box.clientWidth));
  // The playhead's line, as a fraction of the strip's width and of its visible part's.
  const line = () =>
    frame.evaluate((box) => {
      const { right } = (box.querySelector('.playhead') as Element).getBoundingClientRect();
      const strip = (box.querySelector('.lanes') as Element).getBoundingClientRect();
      const seen = box.getBoundingClientRect();
      return { ofStrip: (right - strip.left) / strip.width, ofSeen: (right - seen.left) / seen.width };
    });
  const isInSight = async () => (await line()).ofSeen >= 0 && (await line()).ofSeen <= 1;
  await expect.poll(zoomed).toBe(4);
  await expect.poll(isInSight).toBe(true);
  expect((await line()).ofStrip).toBeCloseTo(1, 2);
  await page.keyboard.press('Home');
  await expect.poll(isInSight).toBe(true);
  expect((await line()).ofStrip).toBeCloseTo(0, 2);
  await page.getByRole('button', { name: 'Zoom out' }).click();
  await page.keyboard.press('ArrowDown');
  await expect.poll(zoomed).toBe(1);
  await expect(page.getByRole('button', { name: 'Zoom out' })).toBeDisabled();

  // A stretch is deleted: the frame at its position is the one that followed it.
  for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowRight');
  const begun = head?.inUs ?? 0;
  await expect.poll(() => position(page)).toBe(framesUs(20));
  await page.locator('.player[data-exact=true]').waitFor();
  const from = await position(page);
  await page.keyboard.press('i');
  for (let i = 0; i < 30; i++) await page.keyboard.press('ArrowRight');
  await expect.poll(() => position(page)).toBe(framesUs(50));
  await page.locator('.player[data-exact=true]').waitFor();
  const to = await position(page);
  await page.keyboard.press('o');
  await page.keyboard.press('x');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await expect.poll(async () => (await storedCut(lesson))?.steps[0]?.pieces.length).toBe(2);
  const parted = await storedCut(lesson);
  expect(cutLengthUs(parted as Cut)).toBe(cutLengthUs(trimmed as Cut) - (to - from));
  expect(await position(page)).toBe(from);
  await expect.poll(() => shownCard(page)).toBe(numberAt(begun + to));
  // One frame back is the last one before the stretch, and playing goes over the seam.
  await page.keyboard.press('ArrowLeft');
  await expect.poll(() => shownCard(page)).toBe(numberAt(begun + framesUs(19)));
  await page.keyboard.press('l');
  await expect.poll(() => position(page), { timeout: 15_000 }).toBeGreaterThan(from + 800_000);
  await page.keyboard.press('k');

  await page.keyboard.press('s');
  await expect(page.getByRole('heading', { name: /^2 steps/ })).toBeVisible();
  await page.getByText('Side by side').click();
  await expect
    .poll(async () => (await storedCut(lesson))?.steps.map(({ layout }) => layout.kind))
    .toEqual(['corner', 'side-by-side']);
  await expectAccessible(page);
  const whole = await storedCut(lesson);

  // Another tab that saves first wins; this one says so and overwrites nothing.
  const other = await context.newPage();
  await other.goto(`/lessons/${lesson}/edit`);
  await other.getByRole('textbox', { name: 'Title of step 1' }).fill('Counted');
  await expect(other.getByText('saved', { exact: true })).toBeVisible();
  await expect.poll(async () => (await storedCut(lesson))?.steps[0]?.title).toBe('Counted');
  await other.close();
  await page.getByRole('radiogroup', { name: 'Layout' }).getByText('Screen', { exact: true }).click();
  await expect(page.getByText('Not saved: This lesson was edited in another tab.')).toBeVisible();
  expect((await storedCut(lesson))?.steps[0]?.title).toBe('Counted');
  await page.getByRole('button', { name: 'Reload' }).click();
  await expect(page.getByRole('textbox', { name: 'Title of step 1' })).toHaveValue('Counted');

  // Undo is exact, and reaches as far back as this visit.
  await page.keyboard.press('Home');
  await page.locator('.player[data-loaded=true]').waitFor();
  // Also a change whose answer has not come back yet.
  await page.route(`**/api/lessons/${lesson}/cut`, async (route) => {
    const response = await route.fetch();
    await new Promise((done) => setTimeout(done, 2000));
    await route.fulfill({ response });
  });
  await page
    .locator('label')
    .filter({ hasText: /^Camera$/ })
    .click();
  await expect.poll(async () => (await storedCut(lesson))?.steps[0]?.layout.kind).toBe('camera');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await storedCut(lesson))?.steps[0]?.layout).toEqual(whole?.steps[0]?.layout);
  await context.close();
});

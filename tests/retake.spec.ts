// A stumble does not mean recording everything again: one step is recorded again, takes are added, steps are moved.
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { at, Cut, cutLengthUs, stepLengthUs } from '@/core/cut/cut';
import { readCardFilm } from './support/card-film';
import { dataDir, rows } from './support/processes';
import {
  armed,
  expect,
  expectAccessible,
  finished,
  lessonOf,
  recordFor,
  shownCard,
  startRecording,
  takeFolder,
} from './support/studio';
import { test } from './support/test';

// Two takes are recorded, and a video is made of both.
test.describe.configure({ timeout: 240_000 });
// The waveform of a take that has just ended is asked for until it is made.
test.use({ refused: /404/ });

const HALF_FRAME_US = 17_000;

async function storedCut(lesson: string): Promise<Cut> {
  const [row] = await rows<{ document: unknown }>('select document from cut where lesson_id = $1', [lesson]);
  return Cut.parse(row?.document);
}

const piecesOf = async (lesson: string) =>
  (await storedCut(lesson)).steps.map(({ pieces }) => pieces.map(({ take }) => take));

const saved = (page: Page) => expect(page.getByText('saved', { exact: true })).toBeVisible();

/** Chooses an entry of a step's menu. */
async function choose(page: Page, step: string, entry: string): Promise<void> {
  await page.getByRole('button', { name: `More for ${step}` }).click();
  await page.getByRole('menuitem', { name: entry }).click();
  // It fades away.
  await expect(page.getByRole('menuitem').first()).toBeHidden();
}

test('a step is recorded again and takes its place; takes are added, steps moved, duplicated and deleted; the video shows just that', async ({
  studio: page,
}) => {
  await armed(page);
  const lesson = lessonOf(page);
  const { takeId: first } = await recordFor(page, 4000);
  await finished(page);
  await page.goto(`/lessons/${lesson}/edit`);
  const player = page.locator('.player[data-loaded=true]');
  await expect(player).toBeVisible();
  for (let i = 0; i < 60; i++) await page.keyboard.press('ArrowRight');
  await page.locator('.player[data-exact=true]').waitFor();
  await page.keyboard.press('s');
  await expect(page.getByRole('heading', { name: /^2 steps/ })).toBeVisible();
  await page.getByRole('textbox', { name: 'Title of step 2' }).fill('Label the jars');
  await saved(page);
  const before = await storedCut(lesson);

  await choose(page, 'Label the jars', 'Record this step again');
  await expect(
    page.getByText(
      'You are recording “Label the jars” again. After Stop, the new take replaces it in the cut.',
    ),
  ).toBeVisible();
  await expectAccessible(page);
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  await startRecording(page);
  await page.waitForTimeout(3000);
  await page.getByRole('button', { name: /^Stop/ }).click();
  await expect(
    page.getByText(/^Label the jars now shows Second take\. Undo brings the old one back\./),
  ).toBeVisible({
    timeout: 60_000,
  });
  await page.waitForURL(/\/edit$/);
  await saved(page);
  const [{ id: second } = { id: '' }] = await rows<{ id: string }>(
    'select id from take where lesson_id = $1 and number = 2',
    [lesson],
  );
  expect(await piecesOf(lesson)).toEqual([[first], [second]]);
  const after = await storedCut(lesson);
  expect(after.steps[1]).toEqual({ ...before.steps[1], pieces: after.steps[1]?.pieces });
  expect(after.steps[0]).toEqual(before.steps[0]);

  // The player shows the new take there, from its first frame in the step.
  const numbersOf = async (take: string) => await readCardFilm(join(takeFolder(take), 'recorded.mkv'));
  const numberAt = async (take: string, takeUs: number) =>
    (await numbersOf(take)).findLast(({ ptsUs }) => ptsUs <= takeUs)?.frame;
  await page.getByRole('button', { name: 'Go to Label the jars' }).click();
  await expect.poll(() => shownCard(page)).toBe(await numberAt(second, after.steps[1]?.pieces[0]?.inUs ?? 0));

  await page.keyboard.press('Control+z');
  await expect.poll(() => piecesOf(lesson)).toEqual([[first], [first]]);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => piecesOf(lesson)).toEqual([[first], [second]]);

  // A take is added where the playhead is: before everything.
  await page.keyboard.press('Home');
  await page.getByRole('button', { name: 'Add a take' }).click();
  await page.getByRole('menuitem', { name: /^Second take, 0:0\d$/ }).click();
  await expect.poll(() => piecesOf(lesson)).toEqual([[second], [first], [second]]);
  const added = await storedCut(lesson);
  expect(cutLengthUs(added)).toBe(
    cutLengthUs(after) + stepLengthUs(added.steps[0] ?? { pieces: [], speed: 1 }),
  );

  // It is moved to the end by keyboard alone.
  await page.getByRole('button', { name: 'Move Step 1' }).focus();
  for (const key of ['Space', 'ArrowDown', 'ArrowDown', 'Space']) {
    await page.keyboard.press(key);
    await page.waitForTimeout(300);
  }
  await expect.poll(async () => (await storedCut(lesson)).steps[2]?.id).toBe(added.steps[0]?.id);
  expect(await piecesOf(lesson)).toEqual([[first], [second], [second]]);
  // And back again by dragging.
  const handle = await page.getByRole('button', { name: 'Move Step 3' }).boundingBox();
  const target = await page.getByRole('button', { name: 'Move Step 1' }).boundingBox();
  if (!handle || !target) throw new Error('There are no handles.');
  await page.mouse.move(handle.x + 8, handle.y + 8);
  await page.mouse.down();
  await page.mouse.move(target.x + 8, target.y + 30, { steps: 8 });
  await page.mouse.move(target.x + 8, target.y + 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await storedCut(lesson)).steps[0]?.id).toBe(added.steps[0]?.id);

  await choose(page, 'Label the jars', 'Duplicate');
  await expect(page.getByRole('heading', { name: /^4 steps/ })).toBeVisible();
  // Two that lie apart are deleted at once.
  await choose(page, 'Step 4', 'Select');
  await page.getByRole('button', { name: 'Go to Step 1' }).click({ modifiers: ['ControlOrMeta'] });
  const several = page.getByRole('group', { name: 'Selected steps' });
  await expect(several.getByRole('status')).toHaveText('2 selected');
  await expectAccessible(page);
  await several.getByRole('button', { name: 'Delete' }).click();
  await expect.poll(() => piecesOf(lesson)).toEqual([[first], [second]]);
  await expect(several).toBeHidden();
  await saved(page);
  await expectAccessible(page);
  const cut = await storedCut(lesson);
  expect(cut).toEqual(after);

  // The second step is trimmed where it begins, by keys: the first stays as it is, and one key brings everything back.
  await page.getByRole('button', { name: 'Go to Label the jars' }).click();
  const trim = page.getByRole('button', { name: 'Start of Label the jars' });
  for (let i = 0; i < 4; i++) await trim.press('Shift+ArrowRight');
  const inUs = async (n: number) => (await storedCut(lesson)).steps[n]?.pieces[0]?.inUs ?? 0;
  await expect.poll(() => inUs(1)).toBeGreaterThan((cut.steps[1]?.pieces[0]?.inUs ?? 0) + 30_000);
  expect(await inUs(0)).toBe(cut.steps[0]?.pieces[0]?.inUs);
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect.poll(() => storedCut(lesson)).toEqual(cut);

  // A mark is set by a key, named, moved along its take and removed; the take keeps none of it.
  await page.keyboard.press('a');
  await page.getByRole('button', { name: /^Marks/ }).click();
  const marks = page.getByRole('dialog', { name: 'Marks' });
  await marks.getByRole('textbox', { name: 'Title of mark 1' }).fill('Lids on');
  await expectAccessible(page);
  await marks.getByRole('button', { name: 'Close' }).click();
  const mark = page.getByRole('button', { name: /^Lids on at/ });
  await mark.press('Shift+ArrowRight');
  const marked = async () => (await storedCut(lesson)).marks;
  await expect.poll(async () => (await marked())[0]?.title).toBe('Lids on');
  await expect
    .poll(async () => ((await marked())[0]?.atUs ?? 0) - ((await marked())[0]?.setUs ?? 0))
    .toBeGreaterThan(0);
  await page.getByRole('button', { name: /^Marks/ }).click();
  await marks.getByRole('button', { name: 'Delete Lids on' }).click();
  await marks.getByRole('button', { name: 'Close' }).click();
  await expect.poll(async () => (await marked())[0]?.atUs).toBeNull();

  // The video that is made of it goes from one take to the other at the joint.
  await page.getByRole('link', { name: 'Hand over', exact: true }).first().click();
  await page.getByRole('radio', { name: /Message attachment/ }).check({ force: true });
  await page.getByRole('button', { name: /^Make it for “Message attachment”/ }).click();
  await expect(page.getByText(/^(All \d+ rules met|\d+ of \d+ rules not met)/)).toBeVisible({
    timeout: 120_000,
  });
  const [parcel] = await rows<{ id: string }>('select id from parcel where lesson_id = $1', [lesson]);
  const film = await readCardFilm(join(dataDir(), 'media', 'parcels', parcel?.id ?? '', 'video.mp4'));
  expect(Math.abs(film.length - (cutLengthUs(cut) * 30) / 1e6)).toBeLessThanOrEqual(1);
  const numbers = new Map<string, Awaited<ReturnType<typeof readCardFilm>>>();
  for (const take of [first, second])
    numbers.set(take, await readCardFilm(join(takeFolder(take), 'recorded.mkv')));
  for (const { ptsUs, frame } of film) {
    const { piece, takeUs } = at(cut, ptsUs);
    // The first picture of a take is the one that stood there when it began, however long before that it was drawn.
    if (takeUs < 100_000) continue;
    // It is one that the take shows at this time, at most half a frame beside it: the video has a grid of its own.
    const recorded = numbers.get(piece.take) ?? [];
    const from = recorded.findLastIndex((each) => each.ptsUs <= takeUs - HALF_FRAME_US);
    const to = recorded.findLastIndex((each) => each.ptsUs <= takeUs + HALF_FRAME_US);
    const shown = recorded.slice(Math.max(0, from), to + 1).map((each) => each.frame);
    expect(shown, `at ${ptsUs} µs`).toContain(frame);
  }
});

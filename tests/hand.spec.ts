// What the hand and the picture tell of a take: zooms to its clicks, a faster wait, and a frame that is held for as long as its text takes.
import { Cut } from '@/core/cut/cut';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { rows } from './support/processes';
import { armed, expect, expectAccessible, finished, lessonOf, misbehave, recordFor } from './support/studio';
import { AT_LENGTH, test } from './support/test';

const SAVED = { timeout: 20_000 };

test('zooms to clicks and a faster wait are proposed and accepted; a frame is held for as long as its text takes', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, { ...PRACTICE_RIG, countdownS: 0, camera: null });
  const lesson = lessonOf(page);
  const { takeId } = await recordFor(page, 1000, async () => {
    await page.waitForTimeout(10_000);
    // Nobody speaks and nothing moves any more.
    await misbehave(page, 'voice', { kind: 'silent' });
    await misbehave(page, 'desk', { kind: 'stuck' });
    await page.waitForTimeout(9000);
    await misbehave(page, 'voice', null);
    await page.waitForTimeout(2000);
  });
  await misbehave(page, 'desk', null);
  await finished(page);
  const clicks = await rows<{ data: { x: number; y: number; pictureX: number; pictureY: number } }>(
    `select data from take_event where take_id = $1 and kind = 'click' order by at_us`,
    [takeId],
  );
  expect(clicks.length).toBeGreaterThan(1);
  // The desk is a display of 1920 × 1080, recorded whole.
  for (const { data } of clicks) {
    expect(data.pictureX).toBeCloseTo(data.x / 1920, 3);
    expect(data.pictureY).toBeCloseTo(data.y / 1080, 3);
  }
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  const stored = async () => {
    const [row] = await rows<{ document: unknown }>('select document from cut where lesson_id = $1', [
      lesson,
    ]);
    return row ? Cut.parse(row.document) : null;
  };

  // Only what is ticked is listed, and accepted.
  await page.getByRole('button', { name: /^Proposals [1-9]/ }).click();
  const list = page.getByRole('dialog', { name: 'Proposals' });
  await expect(list.getByRole('cell', { name: 'Clicks Zoom in' }).first()).toBeVisible();
  await expect(
    list.getByRole('cell', { name: /^Still picture, no voice Speed up to [2-8]×$/ }),
  ).toBeVisible();
  await expectAccessible(page);
  await list.getByRole('checkbox', { name: /^Cut/ }).uncheck();
  await list.getByRole('checkbox', { name: /^Speed up/ }).uncheck();
  await list.getByRole('button', { name: 'Accept all' }).click();
  await expect.poll(async () => (await stored())?.steps[0]?.zooms.length ?? 0, SAVED).toBeGreaterThan(0);
  const [first] = (await stored())?.steps[0]?.zooms ?? [];
  const [click] = clicks;
  expect(Math.abs((first?.area.x ?? 0) + 0.25 - (click?.data.pictureX ?? 1))).toBeLessThan(0.25);
  await list.getByRole('checkbox', { name: /^Speed up/ }).check();
  await list.getByRole('button', { name: /^Accept all, \d+\.\d s shorter$/ }).click();
  await expect
    .poll(async () => (await stored())?.steps.filter(({ speed }) => speed > 1).length ?? 0, SAVED)
    .toBe(1);
  await list.getByRole('button', { name: 'Close' }).click();

  // A desk full of text is held for longer than a line or two.
  await page.getByRole('tab', { name: 'Time' }).click();
  await page.getByRole('button', { name: 'Fit to text' }).click();
  const seconds = page.getByLabel('Hold this frame');
  await expect.poll(async () => Number.parseFloat(await seconds.inputValue())).toBeGreaterThan(3);
  const heldS = Number.parseFloat(await seconds.inputValue());
  await page.getByRole('button', { name: 'Hold', exact: true }).click();
  const held = async () =>
    (await stored())?.steps.flatMap(({ pieces }) => pieces).find(({ heldUs }) => heldUs !== undefined);
  await expect
    .poll(async () => {
      const piece = await held();
      return piece ? (piece.outUs - piece.inUs) / 1e6 : 0;
    }, SAVED)
    .toBe(heldS);
});

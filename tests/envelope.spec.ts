// The sound of a step: an envelope by number and by keys on the strip, loudness as it is heard, one sound alone; and what is delivered.
import type { Page } from '@playwright/test';
import { Cut } from '@/core/cut/cut';
import { type EnvelopePoint, envelopeDb } from '@/core/cut/envelope';
import { samplesOf } from './support/card-film';
import { destination, fileOf, made } from './support/delivering';
import { plantedLesson } from './support/planted';
import { rows } from './support/processes';
import { expect, expectAccessible } from './support/studio';
import { AT_LENGTH, test } from './support/test';

const firstStep = async (lesson: string) => {
  const [row] = await rows<{ document: unknown }>('select document from cut where lesson_id = $1', [lesson]);
  return row ? Cut.parse(row.document).steps[0] : undefined;
};
const voiceEnvelope = async (lesson: string) => (await firstStep(lesson))?.envelopes.voice;

async function lufsShown(page: Page): Promise<number> {
  const text = await page
    .getByRole('group', { name: 'Voice gain' })
    .getByText(/−\d+\.\d LUFS$/)
    .textContent();
  return Number(text?.replace('−', '-').replace(' LUFS', ''));
}

const levelDb = (samples: Float32Array, fromS: number, toS: number): number => {
  const part = samples.subarray(fromS * 48_000, toS * 48_000);
  return 10 * Math.log10(part.reduce((sum, value) => sum + value * value, 0) / part.length);
};

test('the gain of a voice moves within its step, on the strip and in numbers, in its loudness and in the delivered file', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const { lesson } = await plantedLesson(page, 'Envelope');

  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  await page.getByRole('tab', { name: 'Sound' }).click();
  const before = await lufsShown(page);
  await page.getByRole('button', { name: 'Mute app sound' }).click();
  await expect.poll(async () => (await firstStep(lesson))?.gains.appSoundDb).toBe(-60);
  const flat = await samplesOf(fileOf(await made(page, lesson, destination('as-recorded'))));
  const add = page.getByRole('button', { name: 'Add envelope point to the voice' });
  await add.click();
  const first = page.getByRole('spinbutton', { name: 'Voice at 0:00.0' });
  await first.fill('-20');
  await first.press('Enter');
  await expect.poll(() => voiceEnvelope(lesson)).toEqual([{ atUs: 0, gainDb: -20 }]);
  await expect.poll(() => lufsShown(page)).toBeCloseTo(before - 20, 0);

  // Keys that are typed in a field are no keys of the player.
  await first.blur();
  // It was recorded at 10 fps.
  for (let i = 0; i < 10; i++) await page.keyboard.press('.');
  await page.locator('.player[data-exact=true]').waitFor();
  await add.click();
  await expect.poll(async () => (await voiceEnvelope(lesson))?.[1]).toEqual({ atUs: 1_000_000, gainDb: -20 });
  const handle = page.getByRole('button', { name: /^Envelope point of the voice at 0:01: / });
  await handle.focus();
  for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowUp');
  await expect.poll(async () => (await voiceEnvelope(lesson))?.[1]).toEqual({ atUs: 1_000_000, gainDb: -12 });
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await voiceEnvelope(lesson))?.[1]?.gainDb).toBe(-13);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(async () => (await voiceEnvelope(lesson))?.[1]?.gainDb).toBe(-12);
  // By pointer: 5 px of the lane's 30 are 8 dB.
  const box = await handle.boundingBox();
  if (!box) throw new Error('The point is not on the strip.');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 5, { steps: 3 });
  await page.mouse.up();
  await expect.poll(async () => (await voiceEnvelope(lesson))?.[1]?.gainDb).toBe(-4);

  await page.getByRole('button', { name: 'Solo voice' }).click();
  await expect(page.getByRole('button', { name: 'Play all sounds' })).toHaveAttribute('aria-pressed', 'true');
  // The button's hint goes.
  await page.mouse.move(640, 400);
  await expect(page.locator('[role=tooltip]:visible')).toHaveCount(0);
  await expectAccessible(page);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();

  const points = (await voiceEnvelope(lesson)) as EnvelopePoint[];
  const heard = await samplesOf(fileOf(await made(page, lesson, destination('as-recorded'))));
  const loudest = Math.max(...[0.2, 0.5, 0.8, 1.1, 1.4].map((s) => levelDb(flat, s, s + 0.1)));
  for (const s of [0.2, 0.5, 0.8, 1.1, 1.4]) {
    const level = levelDb(flat, s, s + 0.1);
    // In a pause the codecs' own noise decides.
    if (level < loudest - 15) continue;
    const difference = levelDb(heard, s, s + 0.1) - level;
    expect(Math.abs(difference - envelopeDb(points, (s + 0.05) * 1e6)), `${s} s`).toBeLessThan(1.5);
  }

  await page.getByRole('button', { name: 'Delete the point of the voice at 0:01.0' }).click();
  await expect.poll(() => voiceEnvelope(lesson)).toEqual([{ atUs: 0, gainDb: -20 }]);
});

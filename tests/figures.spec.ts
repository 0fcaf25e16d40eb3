// Figures that a reader can check against each other, read from the screens' own text.
import type { Page } from '@playwright/test';
import { clockText } from '@/core/base/figures';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { armed, expect, finished, lessonOf, recordFor, stretch } from './support/studio';
import { test } from './support/test';

const BY: Record<string, number> = { B: 1, kB: 1e3, MB: 1e6, GB: 1e9, 'kb/s': 1e3, 'Mb/s': 1e6, 'Gb/s': 1e9 };

/** The first amount in a text, in its base unit. */
function amount(text: string): number {
  const [, number = '', unit = ''] = text.match(/([\d.]+)\s(kb\/s|Mb\/s|Gb\/s|[kMG]?B)\b/) ?? [];
  const by = BY[unit];
  if (by === undefined) throw new Error(`No amount in “${text}”.`);
  return Number(number) * by;
}

/** The rows of the flow, by track: each cell's text. */
async function flowRows(page: Page): Promise<Map<string, string[]>> {
  const table = page.getByRole('table', { name: 'The flow from the sources to the disk' });
  const rows = await table.locator('tbody tr').all();
  const read = rows.map(async (row): Promise<[string, string[]]> => {
    const [name = ''] = await row.locator('th').allTextContents();
    return [name, await row.locator('td').allTextContents()];
  });
  return new Map(await Promise.all(read));
}

/** What no text of a view may say: a hyphen before a figure, a bare level, a figure without a number. */
async function expectWellWritten(page: Page): Promise<void> {
  // biome-ignore lint/performance/useDomNodeTextContent: by the lines in which it is read, and without what is hidden
  const text = await page.locator('body').innerText();
  expect(text.match(/(^|[\s(])-\d[^\n]*/g) ?? []).toEqual([]);
  expect(text.match(/[^\n]*(NaN|Infinity|undefined|null)[^\n]*/g) ?? []).toEqual([]);
  // A level is said against something (dBFS, dBTP, LUFS, LU); only gains and differences are plain dB.
  // Below “Voice gain” and “App sound gain”, in Edit, they stand alone.
  const gains = (await page.getByRole('group', { name: /gain$/ }).allInnerTexts()).join('\n').split('\n');
  const bare = (text.match(/[^\n]*\d dB(?![FT])[^\n]*/g) ?? []).filter((line) => !gains.includes(line));
  expect(
    bare.filter((line) => !/gain|raise|lower|Export|below|above|more|quieter|louder/i.test(line)),
  ).toEqual([]);
}

test('the bands of Set up add up to the file, raw sound follows its channels, and nothing is said twice', async ({
  studio: page,
}) => {
  const made = await page.request.post('/api/lessons', { data: { title: 'Figures' } });
  const { id } = await made.json();
  await page.request.patch(`/api/lessons/${id}`, { data: { rig: PRACTICE_RIG } });
  await page.goto(`/lessons/${id}/set-up`);
  await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible();
  const check = async () => {
    const rows = await flowRows(page);
    const encoded = [...rows].filter(([name]) => name !== 'File').map(([, cells]) => amount(cells[3] ?? ''));
    const file = amount(rows.get('File')?.[3] ?? '');
    // Two digits each: their rounding is all that may lie between.
    const rounding = [...encoded, file].reduce((sum, each) => sum + each * 0.05, 0);
    expect(Math.abs(encoded.reduce((sum, each) => sum + each, 0) - file)).toBeLessThanOrEqual(rounding);
    const perMinute = amount((rows.get('File')?.[3] ?? '').split(';')[1] ?? '');
    expect(Math.abs(perMinute / ((file * 60) / 8) - 1)).toBeLessThan(0.12);
    return rows;
  };
  let rows = await check();
  expect(amount(rows.get('Voice')?.[0] ?? '')).toBe(768_000);
  // The practice desk's programs sound in one channel, and so they are recorded.
  expect(amount(rows.get('App sound')?.[0] ?? '')).toBe(768_000);
  await expect(page.getByRole('tab', { name: /^Voice/ })).toContainText('mono');
  await expect(page.getByRole('tab', { name: /^App sound/ })).toContainText('mono, gain −12 dB');
  // The same figures are drawn beside the bands, each once.
  const drawn = page.locator('.flow-figures .encoded');
  await expect(drawn).toHaveCount(4);
  const shown = await page.locator('.flow-figures').locator('b, .encoded').allTextContents();
  expect(new Set(shown).size).toBe(shown.length);
  for (const [i, name] of ['Screen', 'Camera', 'Voice', 'App sound'].entries())
    expect(amount((await drawn.nth(i).textContent()) ?? '')).toBe(amount(rows.get(name)?.[3] ?? ''));
  await expectWellWritten(page);

  await stretch(page, 'Voice');
  await page.getByText('Stereo', { exact: true }).click();
  await page.getByText('PCM, 24 bit', { exact: true }).click();
  // A second channel is asked for; the practice voice has none.
  await expect(page.getByRole('tab', { name: /^Voice/ })).toContainText('mono, PCM, 24 bit');
  await expect.poll(async () => amount((await flowRows(page)).get('Voice')?.[0] ?? '')).toBe(1_150_000);
  rows = await check();
  // Kept as it is: what comes in is what is written.
  expect(amount(rows.get('Voice')?.[3] ?? '')).toBe(amount(rows.get('Voice')?.[0] ?? ''));
  await expectWellWritten(page);
});

test('frames, length and rate of a take divide, its tracks add up to its file, and every view agrees and has its units', async ({
  studio: page,
}) => {
  await armed(page, { ...PRACTICE_RIG, countdownS: 0 });
  await expectWellWritten(page);
  // What is estimated before anything was measured.
  await page.getByRole('link', { name: 'Set up' }).first().click();
  // Both pages show the camera: Set up is there when its flow knows it.
  await expect.poll(async () => (await flowRows(page)).has('Camera')).toBe(true);
  const estimated = (await flowRows(page)).get('File')?.[3] ?? '';
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  await recordFor(page, 6000);
  await finished(page);
  const figures = page.locator('.figures td');
  const row = figures.filter({
    has: page.locator('.ant-descriptions-item-label', { hasText: /^Frames in/ }),
  });
  const seconds = Number(
    (await row.locator('.ant-descriptions-item-label').textContent())?.match(/[\d.]+/)?.[0],
  );
  const [, frames, average] =
    ((await row.locator('.ant-descriptions-item-content').textContent()) ?? '').match(
      /(\d+), ([\d.]+) fps/,
    ) ?? [];
  expect(Math.abs(Number(frames) / seconds - Number(average))).toBeLessThan(0.2);
  const tracks = await page
    .getByRole('table', { name: 'Tracks' })
    .locator('tbody tr td:last-child')
    .allTextContents();
  const sum = tracks.reduce((all, text) => all + amount(text), 0);
  // In as many channels as Set up has said.
  await expect(page.getByRole('table', { name: 'Tracks' })).toContainText(/Voice.*mono.*App sound.*mono/);
  // The take lies within the range that was given.
  const [least, most] = (estimated.split(';')[1]?.match(/between (.*) and (.*)\/min/) ?? [])
    .slice(1)
    .map(amount);
  expect((sum * 60) / seconds).toBeGreaterThan(least ?? Number.NaN);
  expect((sum * 60) / seconds).toBeLessThan(most ?? Number.NaN);
  const whole = amount((await page.getByRole('link', { name: /^As recorded/ }).textContent()) ?? '');
  // The one file has a little around its tracks.
  expect(whole / sum).toBeGreaterThan(0.95);
  expect(whole / sum).toBeLessThan(1.1);
  const listed = page
    .getByRole('region', { name: 'One take of this lesson' })
    .getByRole('row')
    .nth(1)
    .locator('td')
    .nth(2);
  await expect
    .poll(async () => Math.abs(amount((await listed.textContent()) ?? '') / sum - 1), { timeout: 4000 })
    .toBeLessThan(0.05);
  await expectWellWritten(page);
  // After it, Set up measures by it and says so.
  await page.getByRole('link', { name: 'Set up' }).first().click();
  await expect(page.getByText('measured in the last take')).toBeVisible();
  const drawn = await page.locator('.flow-figures .encoded').allTextContents();
  expect(drawn.filter((text) => text.startsWith('about'))).toEqual([]);
  const panels = ['Capture area', 'Picture', 'Encode', 'File', 'Camera', 'Voice', 'App sound', 'Source'];
  for (const name of panels) {
    await stretch(page, name);
    await expectWellWritten(page);
  }
  // Every other view speaks of the same take: as long, and as large.
  const length = clockText(seconds * 1e6);
  for (const [view, there] of [
    ['record', page.getByRole('region', { name: 'One take of this lesson' })],
    ['edit', page.getByText(/^The video runs/)],
    ['hand-over', page.getByRole('button', { name: /^Make it for/, disabled: false })],
  ] as const) {
    await page.goto(`/lessons/${lessonOf(page)}/${view}`);
    await expect(there).toBeVisible();
    await expect(page.getByRole('main')).toContainText(length);
    await expectWellWritten(page);
  }
  // Between its bounds: what is expected of a parcel.
  const sentence = (await page.getByRole('region', { name: 'Verdict' }).textContent()) ?? '';
  const said = sentence.match(/[\d.]+ [kM]B/g) ?? [];
  // One size where the finished file is taken, three where it is estimated.
  expect([1, 3]).toContain(said.length);
  const [expected = Number.NaN, from = expected, to = expected] = said.map(amount);
  expect(from).toBeLessThanOrEqual(expected);
  expect(expected).toBeLessThanOrEqual(to);
  // The drawing says the same size as the sentence.
  await expect(page.locator('.size-line')).toContainText(said[0] ?? '');
  const recorded = (await page.getByRole('img', { name: /recorded/ }).getAttribute('aria-label')) ?? '';
  expect(Math.abs(amount(recorded.split('recorded ')[1] ?? '') / sum - 1)).toBeLessThan(0.05);
  for (const view of ['/', '/rigs', '/bin']) {
    await page.goto(view);
    await expect(page.getByRole('main')).toBeVisible();
    await expectWellWritten(page);
  }
});

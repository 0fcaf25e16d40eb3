import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { text } from '../support/card-film';
import { saveCut } from '../support/delivering';
import { dataDir, rows, signal } from '../support/processes';
import { expect } from '../support/studio';
import { AT_LENGTH, test } from '../support/test';

// Encoders take their time on a busy machine.
test.describe.configure({ timeout: 300_000 });

test('a render that is cancelled, or whose worker is killed, leaves nothing half-made and can be made again', {
  tag: AT_LENGTH,
}, async ({ studio: page, filmed: { lesson, takeId, whole } }) => {
  // What an earlier try left in the making would be counted as well.
  const left = await rows<{ id: string }>(
    `select p.id from parcel p join job j on j.subject = p.id where j.state in ('waiting', 'running') and p.deleted_at is null`,
    [],
  );
  for (const { id } of left) await page.request.patch(`/api/parcels/${id}`, { data: { act: 'cancel' } });
  const pieces = [{ take: takeId, inUs: 0, outUs: 5_000_000 }];
  await saveCut(page, lesson, { ...whole, steps: whole.steps.map((step) => ({ ...step, pieces })) });
  await page.goto(`/lessons/${lesson}/hand-over`);
  await page.getByRole('radio', { name: /Course platform/ }).check({ force: true });
  await page.getByRole('button', { name: /^Make it for “Course platform”/ }).click();
  await expect(page.getByText('Encoding the picture')).toBeVisible({ timeout: 30_000 });
  // That of the sample which the page was waiting for has ended as well.
  const encoders = async () => (await text('sh', ['-c', 'pgrep -f [l]ibsvtav1 || true'])).trim();
  await expect.poll(encoders).toMatch(/^\d+$/);
  const parcel = page.locator('.parcel', { hasText: 'Course platform' }).first();
  await parcel.getByRole('button', { name: 'Cancel', exact: true }).click();
  await expect.poll(encoders, { timeout: 1500, intervals: [50] }).toBe('');
  await expect(parcel.getByText('Cancelled; nothing was kept.')).toBeVisible();
  await expect.poll(() => readdirSync(join(dataDir(), 'media', 'making'))).toEqual([]);
  const [row] = await rows<{ id: string }>(
    'select id from parcel where lesson_id = $1 order by created_at desc limit 1',
    [lesson],
  );
  expect(existsSync(join(dataDir(), 'media', 'parcels', row?.id ?? ''))).toBe(false);

  await parcel.getByRole('button', { name: 'Try again' }).click();
  await expect.poll(encoders, { timeout: 20_000 }).not.toBe('');
  const orphan = (await encoders()).split('\n')[0] ?? '';
  signal('worker', 'SIGKILL');
  await expect
    .poll(async () => (await encoders()).split('\n').includes(orphan), { timeout: 1500 })
    .toBe(false);
  // On the server first, then on the page: a page that stands still is another defect than a job that does.
  const state = () => rows('select state, step, progress from job where subject = $1', [row?.id]);
  await expect.poll(state, { timeout: 150_000 }).toMatchObject([{ state: 'done' }]);
  await expect(parcel.getByText(/^All 17 rules met\./)).toBeVisible();
  await expect.poll(() => readdirSync(join(dataDir(), 'media', 'making'))).toEqual([]);
});

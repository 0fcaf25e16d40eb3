// A film from a file: a worker makes a take of it, whoever looks on.
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { jobsOf, newLesson, takesOf, waitingFiles, withFilm } from './support/brought';
import { expect, takeFolder } from './support/studio';
import { AT_LENGTH, test } from './support/test';

const sha256 = (path: string) => createHash('sha256').update(readFileSync(path)).digest('hex');

// Waveform and thumbnails of a take that has just been made are asked for until they are there.
test.use({ refused: /404/ });

test('a film goes on becoming a take when the page is loaded again; cancelled it leaves nothing', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  const lesson = await newLesson(page);
  const making = page.getByRole('status').filter({ hasText: 'Turning compost.avi: Converting' });
  await withFilm('1280x720', 60, async (path) => {
    await page.getByLabel('File to import').setInputFiles(path);
    await expect(making).toBeVisible({ timeout: 30_000 });
    await page.reload();
    await expect(making).toBeVisible();
    const [job] = await jobsOf(lesson);
    expect(waitingFiles(job?.id ?? '').length).toBeGreaterThan(0);
    await making.getByRole('button', { name: 'Cancel' }).click();
    await expect(making).toBeHidden();
    await expect(page.getByText('There is no take to cut yet.')).toBeVisible();
    await expect.poll(() => waitingFiles(job?.id ?? '')).toEqual([]);
    expect([(await jobsOf(lesson)).map(({ state }) => state), await takesOf(lesson)]).toEqual([
      ['cancelled'],
      [],
    ]);
  });
});

test('a short film is added as a step, its file kept bit by bit', async ({ studio: page }) => {
  const lesson = await newLesson(page);
  await withFilm('640x360', 2, async (path) => {
    await page.getByLabel('File to import').setInputFiles(path);
    await expect(page.locator('.player[data-loaded=true]')).toBeVisible({ timeout: 60_000 });
    const [take] = await takesOf(lesson);
    expect(sha256(join(takeFolder(take?.id ?? ''), 'original'))).toBe(sha256(path));
    const [job] = await jobsOf(lesson);
    expect([job?.state, waitingFiles(job?.id ?? '')]).toEqual(['done', []]);
  });
  await expect(page.getByRole('heading', { name: /^1 step, 0:02/ })).toBeVisible();
});

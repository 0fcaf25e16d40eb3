import { jobsOf, newLesson, takesOf, withFilm } from '../support/brought';
import { signal } from '../support/processes';
import { expect } from '../support/studio';
import { AT_LENGTH, test } from '../support/test';

// Waveform and thumbnails of a take that has just been made are asked for until they are there.
test.use({ refused: /404/ });

test('a film whose worker is killed becomes one take anyway', { tag: AT_LENGTH }, async ({
  studio: page,
}) => {
  const lesson = await newLesson(page);
  await withFilm('1280x720', 30, async (path) => {
    await page.getByLabel('File to import').setInputFiles(path);
    await expect(page.getByRole('status').filter({ hasText: 'Converting' })).toBeVisible({
      timeout: 30_000,
    });
    signal('worker', 'SIGKILL');
    await expect(page.locator('.player[data-loaded=true]')).toBeVisible({ timeout: 120_000 });
    expect([(await takesOf(lesson)).length, (await jobsOf(lesson)).map(({ state }) => state)]).toEqual([
      1,
      ['done'],
    ]);
  });
});

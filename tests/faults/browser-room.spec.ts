import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { launch } from '../support/browser';
import { complaints, differing, keptTracks } from '../support/kept';
import { armed, CARD_RIG, expect, finished, startRecording, takeOpened } from '../support/studio';
import { AT_LENGTH, test } from '../support/test';

/** Gives the studio's pages so much more storage than they use now. */
async function limitStorage(page: Page, moreBytes: number): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const origin = new URL(page.url()).origin;
  const { usage } = await session.send('Storage.getUsageAndQuota', { origin });
  await session.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: usage + moreBytes });
}

for (const [name, bytes] of [
  ['shrinks to little', 8_000_000],
  ['is full to the last byte', 0],
] as const)
  test(`the browser’s storage ${name} while recording: the take ends automatically, whole and playable`, {
    tag: bytes === 0 ? AT_LENGTH : [],
  }, async ({ profile }) => {
    const context = await launch(profile);
    const page = context.pages()[0] ?? (await context.newPage());
    await armed(page);
    await startRecording(page);
    await page.waitForTimeout(3000);
    await limitStorage(page, bytes);
    const { takeId, folder } = await takeOpened(page);
    await finished(page);
    const tracks = await keptTracks(folder);
    expect(tracks.map(({ title }) => title).sort()).toEqual(['App sound', 'Camera', 'Screen', 'Voice']);
    for (const { title, endUs } of tracks) expect(endUs, title).toBeGreaterThan(2.5e6);
    const ends = tracks.map(({ endUs }) => endUs);
    expect(Math.max(...ends) - Math.min(...ends)).toBeLessThan(1e6);
    expect(await complaints(join(folder, 'recorded.mkv'))).toBe('');
    expect(await differing(takeId, folder)).toEqual([]);
    await context.close();
  });

test('too little storage to begin with is said before, and nothing is begun', async ({ profile }) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto('/');
  await limitStorage(page, 10_000_000);
  const lesson = await (await page.request.post('/api/lessons', { data: { title: 'Full' } })).json();
  await page.request.patch(`/api/lessons/${lesson.id}`, { data: { rig: CARD_RIG } });
  await page.goto(`/lessons/${lesson.id}/set-up`);
  await expect(page.getByText('The browser’s storage has no free space for a recording.')).toBeVisible({
    timeout: 20_000,
  });
  await expect(
    page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }),
  ).toBeHidden();
  await context.close();
});

// Full storage, on both sides: the recording ends in time, with everything kept.
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { launch } from '../support/browser';
import { text } from '../support/card-film';
import { complaints, differing, keptTracks } from '../support/kept';
import {
  armed,
  CARD_RIG,
  expect,
  finished,
  recordFor,
  startRecording,
  takeOpened,
  test,
} from '../support/studio';

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
  test(`the browser’s storage ${name} while recording: the take ends by itself, whole and playable`, async ({
    profile,
  }) => {
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
  await expect(page.getByText('The browser’s storage has no room for a recording.')).toBeVisible({
    timeout: 20_000,
  });
  await expect(
    page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }),
  ).toBeHidden();
  await context.close();
});

test('a full disk of the studio keeps the take in the browser, says so, and goes on when there is room', async ({
  profile,
}) => {
  const media = join(process.env.DATA_DIR ?? '.data', 'media', 'uploads');
  // A small file system of its own, laid over the uploads' folder: it can be filled to the last byte without harm.
  // Whoever may mount must be able to: only another user's run leaves this row out, and says so.
  test.skip(process.getuid?.() !== 0, 'only root may mount a small file system');
  mkdirSync(media, { recursive: true });
  execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=4m', 'tmpfs', media], { stdio: 'ignore' });
  let released = false;
  const release = () => {
    if (!released) execFileSync('umount', ['-l', media]);
    released = true;
  };
  try {
    writeFileSync(join(media, 'filler'), Buffer.alloc(3_900_000));
    const context = await launch(profile);
    const page = context.pages()[0] ?? (await context.newPage());
    await armed(page);
    const { takeId, folder } = await recordFor(page, 4000);
    await page.goto('/');
    await expect(page.getByText(/is only in this browser/)).toBeVisible({ timeout: 30_000 });
    await expect(page.getByText(/The studio’s disk is full/)).toBeVisible();
    release();
    await page.getByRole('button', { name: 'Try again now' }).click();
    await page.goto(`/takes/${takeId}`);
    await finished(page);
    expect((await keptTracks(folder)).length).toBe(4);
    expect(await differing(takeId, folder)).toEqual([]);
    await context.close();
  } finally {
    release();
  }
});

test('a sweep says what it finds, removes it, and leaves what belongs to somebody', async () => {
  const data = process.env.DATA_DIR ?? '.data';
  const id = () => 'A'.repeat(21) + String(Math.floor(Math.random() * 10));
  const planted = [
    join(data, 'media', 'uploads', `${id()}.media`),
    join(data, 'media', 'uploads', 'stray.txt'),
    join(data, 'media', 'takes', id(), 'plain.mp4'),
  ];
  const takes = join(data, 'media', 'takes');
  const [own] = readdirSync(takes);
  if (own) planted.push(join(takes, own, 'plain.making-0011.mp4'));
  const kept = own ? readdirSync(join(takes, own)) : [];
  for (const path of planted) {
    mkdirSync(join(path, '..'), { recursive: true });
    writeFileSync(path, 'left behind');
  }
  const sweep = (...more: string[]) => text('node', ['scripts/sweep.mjs', '--data', data, ...more]);
  const looked = await sweep('--look');
  expect(looked).toContain(`${planted.length} orphan files`);
  const said = await sweep();
  for (const path of planted.slice(0, 2)) expect(said).toContain(path);
  expect(said).toContain('its take is not known');
  if (own) expect(readdirSync(join(takes, own))).toEqual(kept);
  expect(await sweep()).toContain('0 orphan files');
});

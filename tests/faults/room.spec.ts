// A full disk of the studio, and what is swept away there: everything that was recorded is kept.
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { launch } from '../support/browser';
import { text } from '../support/card-film';
import { differing, keptTracks } from '../support/kept';
import { armed, expect, finished, recordFor } from '../support/studio';
import { test } from '../support/test';

test('a full disk of the studio keeps the take in the browser, says so, and goes on when there is room', async ({
  profile,
}) => {
  const media = join(process.env.DATA_DIR ?? '.data', 'media', 'uploads');
  // A small file system of its own, laid over the uploads' folder: it can be filled to the last byte without harm.
  // As root or by sudo, as the packages are installed: whoever has neither sees this row fail, and not left out.
  const asRoot = (program: string, ...args: string[]) => {
    const [first = program, ...rest] =
      process.getuid?.() === 0 ? [program, ...args] : ['sudo', '-n', program, ...args];
    execFileSync(first, rest, { stdio: ['ignore', 'ignore', 'inherit'] });
  };
  mkdirSync(media, { recursive: true });
  asRoot('mount', '-t', 'tmpfs', '-o', 'size=4m,mode=1777', 'tmpfs', media);
  let released = false;
  const release = () => {
    if (!released) asRoot('umount', '-l', media);
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
    await expect(
      page.getByRole('region', { name: 'Verdict' }).getByText(/The studio’s disk is full/),
    ).toBeVisible();
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

test('a sweep reports what it finds, moves it to the trash, and leaves what somebody may be making', async () => {
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
  // Half-made files are left to whoever may be making them for a day.
  const stray = planted.slice(0, 3);
  const looked = await sweep('--look');
  for (const path of stray.slice(0, 2)) expect(looked).toContain(`would be moved to trash: ${path}`);
  expect(existsSync(stray[1] ?? '')).toBe(true);
  if (own) {
    const halfMade = join(takes, own, 'plain.making-0011.mp4');
    expect(looked).not.toContain(halfMade);
    utimesSync(halfMade, new Date(0), new Date(0));
  }
  const said = await sweep();
  for (const path of stray.slice(0, 2)) expect(said).toContain(`moved to trash: ${path}`);
  expect(said).toContain('no take of that name');
  for (const path of stray) expect(existsSync(path)).toBe(false);
  if (own) expect(readdirSync(join(takes, own))).toEqual(kept);
  expect(await sweep()).toContain('0 stray files');

  const listed = await sweep('--trash');
  const [name = ''] =
    listed
      .split('\n')
      .find((line) => line.includes('uploads/stray.txt'))
      ?.split(' ') ?? [];
  expect(await sweep('--restore', name)).toContain(`restored: ${stray[1]}`);
  expect(existsSync(stray[1] ?? '')).toBe(true);
  expect(await sweep('--delete', name)).toContain('is not in the trash');
});

// Where the files of a take go and what they are: other containers with their reasons, copies in a store, and what comes after the stop.
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Format } from '@/core/codec/formats';
import { DESTINATIONS } from '@/core/destination/destination';
import { firstVoice, type Rig } from '@/core/rig/rig';
import { text } from './support/card-film';
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  choose,
  expect,
  finished,
  recordFor,
  startRecording,
  stretch,
} from './support/studio';
import { AT_LENGTH, test } from './support/test';

const SMALL: Rig = {
  ...CARD_RIG,
  camera: null,
  picture: { ...CARD_RIG.picture, codec: 'vp9' },
  voice: firstVoice({ from: 'practice', id: 'voice' }),
};

/** Streams of a file as ffprobe names them, and how long it is. */
async function probed(file: string) {
  const entries = 'stream=codec_name,sample_rate,channels:format=format_name,duration';
  const { streams, format } = JSON.parse(
    await text('ffprobe', ['-v', 'error', '-show_entries', entries, '-of', 'json', file]),
  );
  return {
    codecs: streams.map(({ codec_name }: { codec_name: string }) => codec_name),
    container: String(format.format_name),
    seconds: Number(format.duration),
  };
}

const MADE: [Format, container: RegExp, codecs: string[]][] = [
  ['mov', /mov/, ['h264', 'aac']],
  ['webm', /webm/, ['vp9', 'opus']],
  ['m4a', /m4a/, ['aac']],
  ['mp3', /mp3/, ['mp3']],
  ['flac', /flac/, ['flac']],
  ['wav', /wav/, ['pcm_s16le']],
  ['opus', /ogg/, ['opus']],
];

test('other files are made of a take, by its rig or when asked for; what cannot be had is refused with its reason', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  test.setTimeout(240_000);
  await armed(page, { ...SMALL, formats: ['webm', 'wav'] });
  const { takeId, folder } = await recordFor(page, 2500);
  await finished(page);
  const [take] = await rows<{ duration_us: string }>('select duration_us from take where id = $1', [takeId]);
  const seconds = Number(take?.duration_us) / 1e6;
  const files = page.locator('.take-files');
  // What its rig asks for is being made: that is shown, and stays.
  await expect(files.locator('b', { hasText: 'WAV' })).toBeVisible();
  for (const [format, container, codecs] of MADE) {
    const name = new RegExp(`made\\.${format}`);
    const link = page.locator(`a[href*="made.${format}"]`);
    if (format !== 'webm' && format !== 'wav')
      await page
        .getByRole('button', { name: `Make ${format === 'opus' ? 'Opus' : format.toUpperCase()}` })
        .click();
    await expect(link).toHaveAttribute('href', name, { timeout: 60_000 });
    const seen = await probed(join(folder, `made.${format}`));
    expect(seen.container).toMatch(container);
    expect(seen.codecs).toEqual(codecs);
    expect(Math.abs(seen.seconds - seconds), format).toBeLessThan(0.15);
  }
  // The same take with a camera: WebM cannot have it, and says why before and after.
  await armed(page, { ...SMALL, camera: CARD_RIG.camera, formats: ['webm'] });
  await expect(page.getByText(/No WebM will be made\. The camera lies over the screen only/)).toBeVisible();
});

test.describe('a store', () => {
  test.use({ refused: /400 .*api\/stores/ });
  test('finished files are copied to a store, compared by hash, and nothing there is written over', {
    tag: AT_LENGTH,
  }, async ({ studio: page }) => {
    test.setTimeout(240_000);
    const shelf = mkdtempSync(join(tmpdir(), 'otter-shelf-'));
    try {
      await armed(page, { ...SMALL, names: { pattern: 'Seeds {lesson}' } });
      await page.getByRole('navigation').getByRole('link', { name: 'Set up' }).click();
      await stretch(page, 'File');
      await choose(page, 'Copies of finished files', 'To another folder …');
      await page.getByLabel('Name', { exact: true }).fill('Shelf');
      await page.getByLabel('Folder on the studio’s machine').fill(join(shelf, 'missing'));
      await page.getByRole('button', { name: 'Test and save' }).click();
      await expect(page.getByText(/there is no such folder/)).toBeVisible();
      await expect(page.getByLabel('Folder on the studio’s machine')).toHaveAttribute('aria-invalid', 'true');
      await page.getByLabel('Folder on the studio’s machine').fill(shelf);
      await page.getByRole('button', { name: 'Test and save' }).click();
      await expect(page.getByText(/writable, .* free, .*\/s, .* of recording left/)).toBeVisible();
      for (let i = 0; i < 2; i++) {
        await page.getByRole('navigation').getByRole('link', { name: 'Record' }).click();
        const { folder } = await recordFor(page, 1500);
        await finished(page);
        const end = i === 0 ? '' : ' (2)';
        for (const [file, name] of [
          ['plain.mp4', `Seeds Fault${end}.mp4`],
          ['recorded.mkv', `Seeds Fault, as recorded${end}.mkv`],
        ] as const) {
          await expect
            .poll(() => readdirSync(shelf).includes(name), { timeout: 30_000, message: name })
            .toBe(true);
          const hash = (path: string) => createHash('sha256').update(readFileSync(path)).digest('hex');
          expect(hash(join(shelf, name))).toBe(hash(join(folder, file)));
        }
        expect(readdirSync(shelf).length).toBe(2 * (i + 1));
      }
      rmSync(shelf, { recursive: true });
      await page.getByRole('navigation').getByRole('link', { name: 'Set up' }).click();
      await expect(page.getByText(/The store “Shelf” cannot be used: there is no such folder/)).toBeVisible({
        timeout: 30_000,
      });
      await stretch(page, 'File');
      await page.getByRole('button', { name: /^Remove folder/ }).click();
      await expect(page.getByText(/The store “Shelf” cannot be used/)).toBeHidden();
      await expect(page.getByText('None (studio’s disk only)')).toBeVisible();
    } finally {
      rmSync(shelf, { recursive: true, force: true });
    }
  });
});

test('after the stop the next take can begin at once, or the take is handed over automatically', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  test.setTimeout(240_000);
  await armed(page, { ...SMALL, afterStop: 'next-take' });
  await startRecording(page);
  await page.waitForTimeout(1500);
  await page.getByRole('button', { name: /^Stop/ }).click();
  await expect(page.getByRole('button', { name: 'Record R', exact: true })).toBeEnabled({ timeout: 20_000 });
  expect(page.url()).toMatch(/\/record$/);

  const [, , , attachment] = DESTINATIONS;
  await armed(page, { ...SMALL, afterStop: 'hand-over', handOverTo: attachment?.id ?? '' });
  await startRecording(page);
  await page.waitForTimeout(2000);
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.waitForURL(/\/hand-over\?take=/, { timeout: 30_000 });
  const parcels = page.getByRole('region', { name: 'Parcels' });
  await expect(parcels.getByText(attachment?.name ?? '').first()).toBeVisible({ timeout: 60_000 });
  const lesson = page.url().split('/').at(-2) ?? '';
  await expect
    .poll(
      async () =>
        (
          await rows<{ state: string }>(
            'select j.state from job j join parcel p on p.id = j.subject where p.lesson_id = $1',
            [lesson],
          )
        ).map(({ state }) => state),
      { timeout: 90_000 },
    )
    .toEqual(['done']);
});

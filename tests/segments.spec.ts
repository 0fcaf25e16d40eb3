// A long recording is made of segments that are confirmed while it goes on; put together they are one recording without a seam.
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { launch } from './support/browser';
import { missingNumbers, readCardFilm, text } from './support/card-film';
import { readJournals } from './support/journals';
import { complaints, differing, keptTracks } from './support/kept';
import { rows } from './support/processes';
import { armed, CARD_RIG, expect, finished, lessonOf, startRecording, takeOpened } from './support/studio';
import { test } from './support/test';

const SEGMENT_S = 3;

type Row = { kind: string; index: number; state: string; continues: boolean; id: string };
const segmentsOf = (lesson: string) =>
  rows<Row>(
    `select t.kind, s.index, s.state, s.continues, s.id from segment s join track t on t.id = s.track_id
     join take on take.id = t.take_id where take.lesson_id = $1 order by t.kind, s.index`,
    [lesson],
  );

test('segments are closed while the take goes on, leave the browser, and join without a lost frame or sample', async ({
  profile,
}) => {
  const context = await launch(profile);
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto('/icon.svg');
  await page.evaluate((seconds) => localStorage.setItem('lab.segment-s', String(seconds)), SEGMENT_S);
  // No camera: then the plain video copies the picture, which it can only where it is one unbroken stream.
  await armed(page, { ...CARD_RIG, camera: null });
  const lesson = lessonOf(page);
  await startRecording(page);
  // The first segments are confirmed and gone from the browser in the middle of the recording.
  await expect
    .poll(async () => (await segmentsOf(lesson)).filter(({ state }) => state === 'confirmed').length, {
      timeout: 30_000,
    })
    .toBeGreaterThanOrEqual(4);
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  const confirmed = (await segmentsOf(lesson)).filter(({ state }) => state === 'confirmed');
  await expect
    .poll(async () => {
      const here = Object.keys(await readJournals(page));
      return confirmed.filter(({ id }) => here.some((path) => path.includes(id)));
    })
    .toEqual([]);
  await page.waitForTimeout(2500);
  await page.getByRole('button', { name: /^Stop/ }).click();
  const { takeId, folder } = await takeOpened(page);
  await finished(page);
  expect(await differing(takeId, folder)).toEqual([]);

  const all = await segmentsOf(lesson);
  for (const kind of ['screen', 'voice', 'app-sound']) {
    const own = all.filter((segment) => segment.kind === kind);
    expect(own.length, kind).toBeGreaterThanOrEqual(3);
    expect(own.map(({ continues }) => continues)).toEqual(own.map((_, i) => i > 0));
  }
  // One track each, as if it had never been parted.
  const recorded = join(folder, 'recorded.mkv');
  const tracks = await keptTracks(folder);
  expect(tracks.map(({ title }) => title).sort()).toEqual(['App sound', 'Screen', 'Voice']);
  expect(await complaints(recorded)).toBe('');
  expect(await complaints(join(folder, 'plain.mp4'))).toBe('');
  const [take] = await rows<{
    facts: { plainVideo: { pictureCopied: boolean }; gaps: unknown[] };
    ledger: { screen: { skipped: number; dropped: number; lostBefore: number } };
  }>('select facts, ledger from take where id = $1', [takeId]);
  expect(take?.facts.plainVideo.pictureCopied).toBe(true);
  expect(take?.facts.gaps).toEqual([]);
  const { skipped = 0, dropped = 0, lostBefore = 0 } = take?.ledger.screen ?? {};
  expect(missingNumbers(await readCardFilm(recorded)).length).toBeLessThanOrEqual(
    skipped + dropped + lostBefore,
  );

  // Every packet of a segment's file is in the whole, in its place, and a sound never stands still between two of them.
  const packets = async (file: string, stream: number) =>
    (
      await text('ffprobe', [
        ...['-v', 'error', '-select_streams', String(stream), '-show_packets', '-show_data_hash', 'md5'],
        ...['-show_entries', 'packet=pts_time,data_hash', '-of', 'csv=p=0', file],
      ])
    )
      .trim()
      .split('\n')
      .map((line) => ({ pts: Number(line.split(',')[0]), hash: line.split(',')[1] }));
  for (const [stream, title] of ['Screen', 'Voice', 'App sound'].entries()) {
    const kind = title === 'App sound' ? 'app-sound' : title.toLowerCase();
    const whole = await packets(recorded, stream);
    const parts: string[] = [];
    for (const { id } of all.filter((segment) => segment.kind === kind))
      for (const { hash } of await packets(join(folder, `${id}.media`), 0)) parts.push(hash ?? '');
    expect(whole.map(({ hash }) => hash)).toEqual(parts);
    if (title === 'Screen') continue;
    const steps = whole.slice(1).map(({ pts }, i) => pts - (whole[i]?.pts ?? 0));
    expect(Math.max(...steps)).toBeLessThan(0.0225);
    expect(Math.min(...steps)).toBeGreaterThan(0.0175);
  }
  // Decoded there are as many samples as the packets say: nothing is skipped at a seam.
  for (const [stream] of [[1], [2]] as const) {
    const whole = await packets(recorded, stream);
    const said = await text('sh', [
      '-c',
      `ffmpeg -v error -i "$0" -map 0:${stream} -f s16le -ac 1 -ar 48000 - | wc -c`,
      recorded,
    ]);
    expect(Math.abs(Number(said) / 2 - whole.length * 960)).toBeLessThanOrEqual(960);
  }
  // Cut across a seam it can still be copied: the render reads the same unbroken stream.
  expect(readdirSync(folder).filter((name) => name.includes('.making-'))).toEqual([]);
  await context.close();
});

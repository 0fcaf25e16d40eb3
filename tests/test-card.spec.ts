import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { PRACTICE_RIG } from '@/core/rig/rig';
import {
  beepOnsets,
  flashOnsets,
  missingNumbers,
  pictureHashes,
  pixelOf,
  readCardFilm,
  samplesOf,
  syncFigures,
  text,
} from './support/card-film';
import { choose, expect, finished, recordFor, shownCard, stretch } from './support/studio';
import { test } from './support/test';

type Stream = {
  codec_type: string;
  codec_name: string;
  width?: number;
  height?: number;
  channels?: number;
  tags?: { title?: string };
};

/** How long the clusters of a Matroska file are, from their first packet to their last. */
async function clusterSpansMs(file: string): Promise<number[]> {
  const bytes = await readFile(file);
  const starts: number[] = [];
  const id = Buffer.from([0x1f, 0x43, 0xb6, 0x75]);
  for (let at = bytes.indexOf(id); at >= 0; at = bytes.indexOf(id, at + 4)) starts.push(at);
  const entries = ['-show_entries', 'packet=pts_time,pos', '-of', 'json'];
  const { packets } = JSON.parse(await text('ffprobe', ['-v', 'error', ...entries, file])) as {
    packets: { pts_time: string; pos: string }[];
  };
  return starts.map((start, i) => {
    const end = starts[i + 1] ?? Number.POSITIVE_INFINITY;
    const times = packets.flatMap(({ pts_time, pos }) =>
      Number(pos) >= start && Number(pos) < end ? [1000 * Number(pts_time)] : [],
    );
    return times.length > 0 ? Math.max(...times) - Math.min(...times) : 0;
  });
}

async function streams(file: string): Promise<Stream[]> {
  const entries = 'stream=codec_type,codec_name,width,height,channels:stream_tags=title';
  return JSON.parse(await text('ffprobe', ['-v', 'error', '-show_entries', entries, '-of', 'json', file]))
    .streams;
}

const loudness = (samples: Float32Array) =>
  Math.sqrt(samples.reduce((sum, v) => sum + v * v, 0) / samples.length);

test('the test card’s file holds every number, each sound on its own track, and a plain video of all of it', async ({
  studio: page,
}) => {
  const made = await page.request.post('/api/lessons', { data: { title: 'Test card' } });
  const { id } = await made.json();
  // Its picture is 1280 × 720, whatever was recorded last.
  await page.request.patch(`/api/lessons/${id}`, { data: { rig: PRACTICE_RIG } });
  await page.goto(`/lessons/${id}/set-up`);
  await choose(page, 'Source', 'Test card');
  await stretch(page, 'Camera');
  await choose(page, 'Device', 'Practice presenter, green wall');
  await stretch(page, 'App sound');
  await choose(page, 'App sound', 'Test card tone');
  await stretch(page, 'File');
  await page.getByText('Off', { exact: true }).click();
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible();
  const { folder } = await recordFor(page, 8000);
  await finished(page);

  const recorded = join(folder, 'recorded.mkv');
  const tracks = await streams(recorded);
  const named = Object.fromEntries(tracks.map((stream, i) => [stream.tags?.title, { ...stream, i }]));
  expect(Object.keys(named).sort()).toEqual(['App sound', 'Camera', 'Screen', 'Voice']);
  expect(named.Screen).toMatchObject({ codec_name: 'h264', width: 1280, height: 720 });
  expect(named.Camera).toMatchObject({ codec_name: 'h264', width: 640, height: 360 });
  expect(named.Voice).toMatchObject({ codec_name: 'opus', channels: 1 });

  // Every picture is read; what is missing between first and last was counted.
  const frames = await readCardFilm(recorded, String(named.Screen?.i));
  expect(frames.filter(({ frame }) => frame === null)).toEqual([]);
  expect((frames.at(-1)?.ptsUs ?? 0) - (frames[0]?.ptsUs ?? 0)).toBeGreaterThan(7.5e6);
  const figure = async (name: string) => {
    const row = page
      .locator('.figures td')
      .filter({ has: page.locator('.ant-descriptions-item-label', { hasText: new RegExp(`^${name}$`) }) });
    return (await row.locator('.ant-descriptions-item-content').textContent()) ?? '';
  };
  const counted = async (name: string) => Number.parseInt(await figure(name), 10);
  const names = [
    'Captured by the browser',
    'Frames in \\d+\\.\\d s',
    'Of these, repeated on a still screen',
    'Skipped, above the target',
    'Dropped by the encoder',
    'Dropped by the source',
  ];
  const [arrived = 0, written = 0, repeated = 0, skipped = 0, dropped = 0, lostBefore = 0] =
    await Promise.all(names.map(counted));
  expect(written - repeated).toBe(arrived - skipped - dropped);
  expect(frames.length).toBe(written);
  expect(missingNumbers(frames).length).toBeLessThanOrEqual(skipped + dropped + lostBefore);

  // Who looks for a place reads whole clusters: they are short.
  const spans = await clusterSpansMs(recorded);
  expect(spans.length).toBeGreaterThan(7_500 / 250);
  expect(Math.max(...spans)).toBeLessThan(350);

  // Half of the pictures are needed by no other: the player leaves them out on its way, and what it shows is the same.
  const all = await pictureHashes(recorded, String(named.Screen?.i));
  const needed = await pictureHashes(recorded, String(named.Screen?.i), 'noref');
  expect(needed.length / all.length).toBeGreaterThan(0.45);
  expect(needed.length / all.length).toBeLessThan(0.55);
  expect(needed.filter((picture) => !all.includes(picture))).toEqual([]);

  // The player shows exactly the picture of a time: five seconds in, then one on, then one back.
  const shownNumber = () => shownCard(page);
  const player = page.locator('.player[data-loaded=true]');
  await expect(player).toBeVisible();
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(player).toHaveAttribute('data-position', '5000000');
  const at = frames.findLastIndex(({ ptsUs }) => ptsUs <= 5_000_000);
  const expected = frames[at]?.frame;
  await expect.poll(shownNumber).toBe(expected);
  await page.keyboard.press('ArrowRight');
  await expect(player).not.toHaveAttribute('data-position', '5000000');
  const positionUs = Number(await player.getAttribute('data-position'));
  expect(Math.abs(positionUs - 5_000_000 - 1e6 / 30)).toBeLessThan(1000);
  await expect.poll(shownNumber).toBe(frames.findLast(({ ptsUs }) => ptsUs <= positionUs)?.frame);
  await page.keyboard.press('ArrowLeft');
  await expect.poll(shownNumber).toBe(expected);

  const [voice, app] = [
    await samplesOf(recorded, String(named.Voice?.i)),
    await samplesOf(recorded, String(named['App sound']?.i)),
  ];
  const tones = beepOnsets(app);
  expect(tones.length).toBeGreaterThanOrEqual(4);
  const sync = syncFigures(flashOnsets(frames), tones);
  expect(sync.pairs).toBeGreaterThanOrEqual(3);
  expect(Math.abs(sync.medianMs)).toBeLessThanOrEqual(20);
  // Speech is not on the tone's track, and the tone is not on the voice's: between tones one is silent, the other is not.
  const between = (samples: Float32Array) => samples.subarray(48_000 * 2.7, 48_000 * 3.4);
  expect(loudness(between(app))).toBeLessThan(0.001);
  expect(loudness(between(voice))).toBeGreaterThan(0.005);

  const plain = join(folder, 'plain.mp4');
  expect((await streams(plain)).map(({ codec_name }) => codec_name)).toEqual(['h264', 'aac']);
  const film = await readCardFilm(plain);
  expect(film.filter(({ frame }) => frame === null)).toEqual([]);
  // Fast start: the index stands before the data.
  const head = await readFile(plain);
  expect(head.indexOf('moov')).toBeLessThan(head.indexOf('mdat'));
  // The camera lies over it: the key-coloured wall is where the layout puts the camera.
  const [red = 0, green = 0, blue = 0] = await pixelOf(plain, 2, { x: 1024, y: 572 });
  expect(green).toBeGreaterThan(Math.max(red, blue) + 40);
  const mix = await samplesOf(plain);
  expect(beepOnsets(mix).length).toBeGreaterThanOrEqual(3);
  expect(loudness(between(mix))).toBeGreaterThan(0.005);
});

test('ranges of media are true: 206, exact length, and 416 beyond the end', async ({
  request,
  studio: page,
}) => {
  await page.goto('/');
  const link = page.getByRole('link', { name: 'Play the take' });
  const take = (await link.getAttribute('href'))?.split('/').pop();
  const url = `/api/media/${take}/plain.mp4`;
  const whole = await request.get(url);
  const size = (await whole.body()).length;
  expect(whole.headers()).toMatchObject({
    'accept-ranges': 'bytes',
    'content-length': String(size),
    'content-type': 'video/mp4',
  });
  expect(whole.headers().etag).toBeTruthy();
  const part = await request.get(url, { headers: { range: 'bytes=100-199' } });
  expect([part.status(), part.headers()['content-range'], (await part.body()).length]).toEqual([
    206,
    `bytes 100-199/${size}`,
    100,
  ]);
  expect(Buffer.compare(await part.body(), (await whole.body()).subarray(100, 200))).toBe(0);
  // A recording is read in many parts, which no browser need keep on its disk; a film that is played whole may be kept, and is asked for again.
  const kept = async (file: string) =>
    (await request.head(`/api/media/${take}/${file}`)).headers()['cache-control'];
  expect(await kept('recorded.mkv')).toBe('private, no-store');
  expect(await kept('plain.mp4')).toBe('private, no-cache');
  expect((await request.get(url, { headers: { range: `bytes=${size}-` } })).status()).toBe(416);
  for (const bad of [
    `/api/media/${take}/..%2f..%2fpostgres-password`,
    `/api/media/${take}/mask.pgm`,
    '/api/media/none/plain.mp4',
  ])
    expect((await request.get(bad)).status(), bad).toBe(404);
});

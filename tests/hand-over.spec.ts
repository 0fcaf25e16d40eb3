// From a take to a file that a place takes, and to a link: what is delivered is what was cut and seen.
import { execFile } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Page } from '@playwright/test';
import { type Cut, cutLengthUs, defaultCut, type Layout } from '@/core/cut/cut';
import { DESTINATIONS, type Destination } from '@/core/destination';
import { newStepId, type TakeId } from '@/core/ids';
import type { ParcelView } from '@/core/parcel';
import { PRACTICE_RIG } from '@/core/rig';
import { launch, withProfile } from './support/browser';
import { beepOnsets, flashOnsets, readCardFilm, samplesOf, syncFigures, text } from './support/card-film';
import { complaints } from './support/kept';
import { rows, signal } from './support/processes';
import {
  armed,
  CARD_RIG,
  expect,
  expectAccessible,
  finished,
  misbehave,
  recordFor,
  shownCard,
  test,
} from './support/studio';

// Encoders take their time on a busy machine.
test.describe.configure({ timeout: 300_000 });

const dataDir = () => process.env.DATA_DIR ?? '.data';
const destination = (id: string) => DESTINATIONS.find((each) => each.id === id) as Destination;
const lessonOf = (page: Page) => new URL(page.url()).pathname.split('/')[2] ?? '';
const fileOf = (parcel: ParcelView, name = parcel.facts?.files[0]?.name ?? '') =>
  join(dataDir(), 'media', 'parcels', parcel.id, name);

async function saveCut(page: Page, lesson: string, cut: Cut): Promise<void> {
  const [row] = await rows<{ revision: number }>('select revision from cut where lesson_id = $1', [lesson]);
  const url = `${process.env.BASE_URL}/api/lessons/${lesson}/cut`;
  const answer = await page.request.put(url, { data: { cut, revision: row?.revision ?? 0 } });
  expect(answer.ok(), await answer.text()).toBe(true);
}

/** Makes a parcel through the server and waits for it. */
async function made(page: Page, lesson: string, to: Destination): Promise<ParcelView> {
  const url = `${process.env.BASE_URL}/api/lessons/${lesson}/parcels`;
  const parcel: ParcelView = await (await page.request.post(url, { data: { destination: to } })).json();
  const look = async (): Promise<ParcelView> =>
    (await page.request.get(`${process.env.BASE_URL}/api/parcels/${parcel.id}`)).json();
  await expect.poll(async () => (await look()).job?.state, { timeout: 120_000 }).toBe('done');
  return look();
}

type Filmed = { lesson: string; takeId: TakeId; folder: string; whole: Cut };

/** A take of the test card with camera and both sounds, finished, and the cut of all of it: made once for all that need nothing else. */
const delivering = test.extend<object, { filmed: Filmed }>({
  filmed: [
    // biome-ignore lint/correctness/noEmptyPattern: the runner wants an object pattern
    async ({}, use) => {
      await withProfile(async (profile) => {
        const context = await launch(profile);
        const page = context.pages()[0] ?? (await context.newPage());
        await armed(page);
        const lesson = lessonOf(page);
        const { takeId, folder } = await recordFor(page, 11_000);
        await finished(page);
        await context.close();
        const [take] = await rows<{ duration_us: string }>('select duration_us from take where id = $1', [
          takeId,
        ]);
        const whole = defaultCut(newStepId(), {
          id: takeId as TakeId,
          durationUs: Number(take?.duration_us),
          camera: CARD_RIG.camera?.place ?? null,
          appSoundDb: 0,
        });
        await use({ lesson, takeId: takeId as TakeId, folder, whole });
      });
    },
    { scope: 'worker', timeout: 120_000 },
  ],
});

const broken = (parcel: ParcelView) =>
  parcel.facts?.files.flatMap(({ name, rules }) =>
    rules.filter(({ met }) => !met).map(({ rule, measured }) => `${name} ${rule} ${measured}`),
  );

test('a quick answer: recorded, both ends trimmed, a part taken out, sent as an attachment and by a link that is taken back', async ({
  studio: page,
}) => {
  await armed(page, { ...PRACTICE_RIG, countdownS: 0 });
  const lesson = lessonOf(page);
  await misbehave(page, 'voice', { kind: 'silent' });
  const { folder } = await recordFor(page, 2000, async () => {
    await page.waitForTimeout(2500);
    await page.keyboard.press('m');
    await misbehave(page, 'voice', null);
    await page.waitForTimeout(15_000);
    await misbehave(page, 'voice', { kind: 'silent' });
  });
  // A take's link is there at once, and shows whatever can be watched already.
  await page.getByRole('button', { name: 'Make a link' }).click();
  const early = await page.context().newPage();
  await early.goto((await page.locator('.share-link a').getAttribute('href')) ?? '');
  await expect
    .poll(() => early.evaluate(() => document.querySelector('video')?.readyState ?? 0), { timeout: 20_000 })
    .toBeGreaterThanOrEqual(2);
  await early.close();
  await finished(page);
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  await page.getByRole('button', { name: /^Trim both ends/ }).click();
  for (let i = 0; i < 15; i++) await page.keyboard.press('ArrowRight');
  await page.locator('.player[data-exact=true]').waitFor();
  await page.keyboard.press('i');
  await page.keyboard.press('l');
  await page.locator('.player[data-exact=true]').waitFor();
  await page.keyboard.press('o');
  await page.keyboard.press('x');
  await expect
    .poll(
      async () =>
        (await rows<{ document: Cut }>('select document from cut where lesson_id = $1', [lesson]))[0]
          ?.document.steps[0]?.pieces.length,
    )
    .toBe(2);
  const [row] = await rows<{ document: Cut }>('select document from cut where lesson_id = $1', [lesson]);
  const lengthUs = cutLengthUs(row?.document as Cut);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();

  await page.getByRole('link', { name: 'Hand over', exact: true }).first().click();
  await page.getByRole('radio', { name: /Message attachment/ }).check({ force: true });
  await expect(page.getByText(/somewhere between/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Make it for “Message attachment”/ }).click();
  await expect(page.getByText(/^All 1\d rules met\./)).toBeVisible({ timeout: 120_000 });
  const [parcel] = await rows<{ id: string }>('select id from parcel where lesson_id = $1', [lesson]);
  const file = join(dataDir(), 'media', 'parcels', parcel?.id ?? '', 'video.mp4');
  expect(statSync(file).size).toBeLessThanOrEqual(2_000_000);
  const probed = JSON.parse(
    await text('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', file]),
  );
  expect(probed.streams.map(({ codec_name }: { codec_name: string }) => codec_name)).toEqual(['h264', 'aac']);
  expect(Math.abs(Number(probed.streams[0].duration) * 1e6 - lengthUs)).toBeLessThan(35_000);
  expect(await complaints(file)).toBe('');
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await expect(page.getByText(/0\.99\d\d, worst picture 0\.9\d\d\d: clear/)).toBeVisible();
  await expectAccessible(page);
  expect(readdirSync(join(dataDir(), 'media', 'making'))).toEqual([]);

  // Any other file can be asked about: this one has four tracks in a container that the place does not take.
  await page.getByLabel('File to check').setInputFiles(join(folder, 'recorded.mkv'));
  await expect(page.getByText(/[1-9]\d* of \d+ rules not met\./)).toBeVisible({ timeout: 30_000 });
  expect(readdirSync(join(dataDir(), 'media', 'lent'))).toEqual([]);

  // The link: a page of its own on an address of its own, which knows nothing else.
  await page.getByRole('button', { name: 'Make a link' }).click();
  const url = (await page.locator('.share-link a').getAttribute('href')) ?? '';
  expect(new URL(url).host).not.toBe(new URL(process.env.BASE_URL ?? '').host);
  const guest = await page.context().newPage();
  await guest.goto(url);
  await expect(guest.getByRole('heading', { name: 'Fault' })).toBeVisible();
  await expectAccessible(guest);
  await guest.keyboard.press('Space');
  const playedS = () => guest.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime);
  await expect.poll(playedS, { timeout: 15_000 }).toBeGreaterThan(0.5);
  await guest.keyboard.press('k');
  await guest.keyboard.press('Home');
  await expect.poll(playedS).toBe(0);
  await guest.close();
  const part = await page.request.get(`${url}/video`, { headers: { Range: 'bytes=100-199' } });
  expect([part.status(), (await part.body()).length]).toEqual([206, 100]);
  expect(part.headers()['x-robots-tag']).toContain('noindex');
  for (const path of ['/', '/api/health', '/lessons', '/s/', `/s/${parcel?.id}/video`, '/s/../api/lessons'])
    expect((await page.request.get(new URL(path, url).href)).status(), path).toBe(404);
  expect((await page.request.post(url)).status()).toBe(405);
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('button', { name: 'Make a link' })).toBeVisible();
  for (const address of [url, `${url}/video`, `${url}/state`])
    expect((await page.request.get(address)).status(), address).toBe(404);
});

delivering(
  'where only ends moved, all but the pictures beside the cuts is copied to the last bit, none is missing, sound is in sync',
  async ({ studio: page, filmed: { lesson, takeId, folder, whole } }) => {
    const [step] = whole.steps;
    if (!step) throw new Error('A cut has a step.');
    const pieces = [
      { take: takeId, inUs: 700_000, outUs: 4_900_000 },
      { take: takeId, inUs: 5_500_000, outUs: 10_300_000 },
    ];
    const hashes = async (path: string, stream = 'v:0') => {
      const args = [
        '-v',
        'error',
        '-select_streams',
        stream,
        '-show_data_hash',
        'sha256',
        '-show_entries',
        'packet=data_hash',
        '-of',
        'csv=p=0',
        path,
      ];
      return (await text('ffprobe', args)).trim().split('\n');
    };
    const sources: [Layout, string, typeof pieces][] = [
      [step.layout, 'plain.mp4', pieces],
      [{ kind: 'screen' }, 'recorded.mkv', pieces],
      [step.layout, 'plain.mp4', [{ take: takeId, inUs: 1_310_000, outUs: 8_790_000 }]],
    ];
    for (const [layout, name, pieces] of sources) {
      await saveCut(page, lesson, { ...whole, steps: [{ ...step, layout, pieces }] });
      const parcel = await made(page, lesson, destination('as-recorded'));
      expect(parcel.plan.way, name).toBe('smart');
      expect(broken(parcel)).toEqual([]);
      const path = fileOf(parcel);
      expect(await complaints(path)).toBe('');
      // Most packets are the very ones of the source, in one run a piece.
      const source = new Set(await hashes(join(folder, name)));
      const own = await hashes(path);
      expect(own.filter((hash) => source.has(hash)).length / own.length, name).toBeGreaterThan(0.6);
      // No picture of the source's stretches is missing, and none stands twice or in another order.
      const before = (await readCardFilm(join(folder, name))).filter(({ frame }) => frame !== null);
      const film = await readCardFilm(path);
      expect(
        film.filter(({ frame }) => frame === null),
        name,
      ).toEqual([]);
      const expected = pieces.flatMap(({ inUs, outUs }) =>
        before
          .filter(({ ptsUs }) => ptsUs >= inUs + 34_000 && ptsUs < outUs - 34_000)
          .map(({ frame }) => frame),
      );
      const seen = film.map(({ frame }) => frame);
      expect(
        expected.filter((frame) => !seen.includes(frame)),
        name,
      ).toEqual([]);
      const lengths = pieces.reduce((sum, { inUs, outUs }) => sum + outUs - inUs, 0);
      expect(Math.abs((film.at(-1)?.ptsUs ?? 0) + 33_333 - lengths), name).toBeLessThan(70_000);
      const sync = syncFigures(flashOnsets(film), beepOnsets(await samplesOf(path)));
      expect(sync.pairs, name).toBeGreaterThanOrEqual(3);
      expect(Math.abs(sync.medianMs), name).toBeLessThanOrEqual(20);
      if (pieces.length > 1) continue;
      // One piece keeps its sound too: the plain video's, bit for bit.
      const sounds = new Set(await hashes(join(folder, 'plain.mp4'), 'a:0'));
      const copied = (await hashes(path, 'a:0')).filter((hash) => sounds.has(hash)).length;
      expect(copied).toBeGreaterThan(((lengths - 50_000) * 48_000) / 1024e6);
    }
    // The whole take for a place whose rules the recorded picture meets: every packet is copied, the sound alone is made anew.
    await saveCut(page, lesson, whole);
    const host = await made(page, lesson, destination('hd-video-host'));
    expect([host.plan.way, broken(host)]).toEqual(['whole', []]);
    expect(await hashes(fileOf(host))).toEqual(await hashes(join(folder, 'plain.mp4')));
  },
);

/** Structural similarity of two pictures, all of it (ffmpeg's own, not ours). */
async function ssim(a: string, b: string): Promise<number> {
  const { stderr } = await promisify(execFile)('ffmpeg', [
    ...['-hide_banner', '-i', a, '-i', b],
    ...[
      '-lavfi',
      '[1:v][0:v]scale2ref=flags=bicubic[b][a];[a]format=yuv420p[c];[b]format=yuv420p[d];[c][d]ssim',
      '-f',
      'null',
      '-',
    ],
  ]);
  return Number(/All:([\d.]+)/.exec(stderr)?.[1]);
}

delivering(
  'in every layout the delivered picture is the one that the player shows; an editor gets every track',
  async ({ studio: page, filmed: { lesson, takeId } }) => {
    const place = CARD_RIG.camera?.place;
    if (!place) throw new Error('The rig has a camera.');
    const layouts: Layout[] = [
      { kind: 'screen' },
      { kind: 'corner', place: { ...place, corner: 'top-left', shape: 'circle', mirror: true } },
      { kind: 'side-by-side', camera: 'left', mirror: false },
      { kind: 'camera', mirror: false },
    ];
    const cut: Cut = {
      version: 1,
      steps: layouts.map((layout, i) => ({
        id: newStepId(),
        title: `Part ${i + 1}`,
        pieces: [{ take: takeId, inUs: 300_000 + i * 1_400_000, outUs: 1_500_000 + i * 1_400_000 }],
        layout,
        gains: { voiceDb: 0, appSoundDb: -6 },
      })),
    };
    await saveCut(page, lesson, cut);
    const parcel = await made(page, lesson, destination('hd-video-host'));
    expect([parcel.plan.way, broken(parcel)]).toEqual(['encode', []]);
    expect(parcel.facts?.clarity?.mean).toBeGreaterThan(0.995);
    const folder = mkdtempSync(join(tmpdir(), 'otter-layouts-'));
    try {
      await page.setViewportSize({ width: 1400, height: 900 });
      await page.goto(`/lessons/${lesson}/edit`);
      await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
      // Pixel for pixel, over everything else: no scaling stands between the two pictures.
      await page.locator('.player .screen').evaluate((element: HTMLElement) => {
        Object.assign(element.style, {
          position: 'fixed',
          inset: '0 auto auto 0',
          width: '1280px',
          height: '720px',
          maxHeight: 'none',
          borderRadius: '0',
          pointerEvents: 'none',
          zIndex: '99',
        });
      });
      for (const [i, { kind }] of layouts.entries()) {
        await page.getByRole('button', { name: `Go to Part ${i + 1}` }).click();
        for (let n = 0; n < 12; n++) await page.keyboard.press('ArrowRight');
        await expect
          .poll(async () => Number(await page.locator('.player').getAttribute('data-position')))
          .toBeGreaterThan(i * 1_200_000 + 350_000);
        const number = kind === 'camera' ? null : await shownCard(page);
        await expect(page.locator('.player[data-exact=true]')).toBeVisible();
        const positionUs = Number(await page.locator('.player').getAttribute('data-position'));
        const shown = join(folder, `${kind}.png`);
        await page.locator('.player canvas').screenshot({ path: shown });
        const results: number[] = [];
        // The border between two frames of the file may lie a hair beside the player's.
        for (const beside of [-1, 0, 1]) {
          const frame = join(folder, `${kind}${beside}.png`);
          const n = Math.round((positionUs * 30) / 1e6) + beside;
          await text('ffmpeg', [
            '-v',
            'error',
            '-y',
            '-i',
            fileOf(parcel),
            '-vf',
            `select=eq(n\\,${n})`,
            '-frames:v',
            '1',
            frame,
          ]);
          if (number === null || (await readCardFilm(frame))[0]?.frame === number)
            results.push(await ssim(shown, frame));
        }
        expect(Math.max(...results), kind).toBeGreaterThanOrEqual(0.97);
      }
    } finally {
      rmSync(folder, { recursive: true });
    }

    const tracks = await made(page, lesson, destination('editor'));
    expect(tracks.facts?.files.map(({ name }) => name)).toEqual([
      'screen.mov',
      'camera.mov',
      'voice.wav',
      'app-sound.wav',
    ]);
    expect(broken(tracks)).toEqual([]);
    const lengths = tracks.facts?.files.map(({ measured }) => measured.durationUs) ?? [];
    expect(Math.max(...lengths) - Math.min(...lengths)).toBeLessThanOrEqual(1);
  },
);

delivering(
  'a render that is cancelled, or whose worker is killed, leaves nothing half-made and can be made again',
  async ({ studio: page, filmed: { lesson, takeId, whole } }) => {
    const pieces = [{ take: takeId, inUs: 0, outUs: 5_000_000 }];
    await saveCut(page, lesson, { ...whole, steps: whole.steps.map((step) => ({ ...step, pieces })) });
    await page.goto(`/lessons/${lesson}/hand-over`);
    await page.getByRole('radio', { name: /Course platform/ }).check({ force: true });
    await page.getByRole('button', { name: /^Make it for “Course platform”/ }).click();
    await expect(page.getByText('Encoding the picture')).toBeVisible({ timeout: 30_000 });
    const encoders = async () => (await text('sh', ['-c', 'pgrep -f [l]ibsvtav1 || true'])).trim();
    await expect.poll(encoders).not.toBe('');
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

    await parcel.getByRole('button', { name: 'Make it again' }).click();
    await expect.poll(encoders, { timeout: 20_000 }).not.toBe('');
    const orphan = (await encoders()).split('\n')[0] ?? '';
    signal('worker', 'SIGKILL');
    await expect
      .poll(async () => (await encoders()).split('\n').includes(orphan), { timeout: 1500 })
      .toBe(false);
    await expect(parcel.getByText(/^All 17 rules met\./)).toBeVisible({ timeout: 120_000 });
    await expect.poll(() => readdirSync(join(dataDir(), 'media', 'making'))).toEqual([]);
  },
);

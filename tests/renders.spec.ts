// What comes out of a render is what was recorded and seen: copied where it can be, composed as the player shows it, whole or not at all.
import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { newStepId } from '@/core/base/ids';
import { type Cut, PLAIN_STEP } from '@/core/cut/cut';
import type { Layout } from '@/core/layout/layout-kinds';
import { beepOnsets, flashOnsets, readCardFilm, samplesOf, syncFigures, text } from './support/card-film';
import { broken, destination, fileOf, made, saveCut } from './support/delivering';
import { complaints } from './support/kept';
import { CARD_RIG, expect, shownCard } from './support/studio';
import { test } from './support/test';

// Encoders take their time on a busy machine. One after the other: both cut the same lesson.
test.describe.configure({ mode: 'default', timeout: 300_000 });

/** Of each packet of a stream, in their order. */
async function hashes(path: string, stream = 'v:0'): Promise<string[]> {
  const hashed = ['-show_data_hash', 'sha256', '-show_entries', 'packet=data_hash', '-of', 'csv=p=0'];
  return (await text('ffprobe', ['-v', 'error', '-select_streams', stream, ...hashed, path]))
    .trim()
    .split('\n');
}

test('where only ends moved, all but the pictures beside the cuts is copied to the last bit, none is missing, sound is in sync', async ({
  studio: page,
  filmed: { lesson, takeId, folder, whole },
}) => {
  const [step] = whole.steps;
  if (!step) throw new Error('A cut has a step.');
  const pieces = [
    { take: takeId, inUs: 700_000, outUs: 4_900_000 },
    { take: takeId, inUs: 5_500_000, outUs: 10_300_000 },
  ];
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
    // The last picture stands for as long as it did in the source, where the one after it may have been lost.
    const outUs = pieces.at(-1)?.outUs ?? 0;
    const heldUs = outUs - Math.max(...before.map(({ ptsUs }) => ptsUs).filter((ptsUs) => ptsUs < outUs));
    expect(Math.abs((film.at(-1)?.ptsUs ?? 0) + heldUs - lengths), name).toBeLessThan(70_000);
    const sync = syncFigures(flashOnsets(film), beepOnsets(await samplesOf(path)));
    expect(sync.pairs, name).toBeGreaterThanOrEqual(3);
    expect(Math.abs(sync.medianMs), name).toBeLessThanOrEqual(20);
    if (pieces.length > 1) continue;
    // One piece keeps its sound too: the plain video's, bit for bit.
    const sounds = new Set(await hashes(join(folder, 'plain.mp4'), 'a:0'));
    const copied = (await hashes(path, 'a:0')).filter((hash) => sounds.has(hash)).length;
    expect(copied).toBeGreaterThan(((lengths - 50_000) * 48_000) / 1024e6);
  }
  // The whole take for a place whose rules the recorded picture meets: every picture packet is copied, only the sound is re-encoded.
  await saveCut(page, lesson, whole);
  const host = await made(page, lesson, destination('hd-video-host'));
  expect([host.plan.way, broken(host)]).toEqual(['whole', []]);
  expect(await hashes(fileOf(host))).toEqual(await hashes(join(folder, 'plain.mp4')));
});

test('a step with a zoom is encoded between two that are copied to the last bit; no picture is missing', async ({
  studio: page,
  filmed: { lesson, takeId, folder, whole },
}) => {
  const [step] = whole.steps;
  if (!step) throw new Error('A cut has a step.');
  const area = { x: 0.25, y: 0.25, width: 0.5, height: 0.5 };
  const spans = [
    [500_000, 4_500_000],
    [4_500_000, 6_500_000],
    [6_500_000, 10_000_000],
  ] as const;
  const steps = spans.map(([inUs, outUs], i) => ({
    ...{
      ...step,
      id: newStepId(),
      layout: { kind: 'screen' } as const,
      pieces: [{ take: takeId, inUs, outUs }],
    },
    zooms: i === 1 ? [{ fromUs: 0, toUs: outUs - inUs, area, easeUs: 0 }] : [],
  }));
  await saveCut(page, lesson, { ...whole, steps });
  const parcel = await made(page, lesson, destination('as-recorded'));
  expect([parcel.plan.way, broken(parcel)]).toEqual(['smart', []]);
  const path = fileOf(parcel);
  expect(await complaints(path)).toBe('');
  expect(statSync(path).size).toBeGreaterThanOrEqual(parcel.plan.expected.from);
  expect(statSync(path).size).toBeLessThanOrEqual(parcel.plan.expected.to);
  const source = new Set(await hashes(join(folder, 'recorded.mkv')));
  const own = await hashes(path);
  // Seven and a half seconds of nine and a half, but for what lies before a keyframe.
  expect(own.filter((hash) => source.has(hash)).length / own.length).toBeGreaterThan(0.4);
  // The card's number is read where the whole card is seen, and goes on over the step between.
  const before = (await readCardFilm(join(folder, 'recorded.mkv'))).filter(({ frame }) => frame !== null);
  const film = await readCardFilm(path);
  for (const [inUs, outUs] of [spans[0], spans[2]]) {
    const expected = before.filter(({ ptsUs }) => ptsUs >= inUs + 34_000 && ptsUs < outUs - 34_000);
    // From when on each stands: where the recorder lost the next ones, the composed film repeats it.
    const seen = new Map(film.toReversed().map(({ frame, ptsUs }) => [frame, ptsUs]));
    for (const { frame, ptsUs } of expected)
      expect(Math.abs((seen.get(frame) ?? 0) - (ptsUs - 500_000)), `${frame}`).toBeLessThan(40_000);
  }
  // Two seconds are composed, every frame of them, and show what the zoom shows of the same instant.
  const composed = film.filter(({ ptsUs }) => ptsUs >= 4_000_000 - 17_000 && ptsUs < 6_000_000 - 17_000);
  expect(Math.abs(composed.length - 60)).toBeLessThanOrEqual(1);
  const pictures = mkdtempSync(join(tmpdir(), 'otter-'));
  const [shown, wanted] = [join(pictures, 'shown.png'), join(pictures, 'wanted.png')];
  const quiet = ['-v', 'error', '-y'];
  await text('ffmpeg', [...quiet, '-ss', '5', '-i', path, '-frames:v', '1', shown]);
  const zoomed = 'crop=iw/2:ih/2:iw/4:ih/4,scale=iw*2:ih*2:flags=bicubic';
  await text('ffmpeg', [
    ...quiet,
    '-ss',
    '5.5',
    '-i',
    join(folder, 'recorded.mkv'),
    '-frames:v',
    '1',
    '-vf',
    zoomed,
    wanted,
  ]);
  expect(await ssim(shown, wanted)).toBeGreaterThan(0.95);
  rmSync(pictures, { recursive: true });
});

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

test('in every layout the delivered picture is the one that the player shows; an editor gets every track', async ({
  studio: page,
  filmed: { lesson, takeId },
}) => {
  const place = CARD_RIG.camera?.place;
  if (!place) throw new Error('The rig has a camera.');
  const layouts: Layout[] = [
    { kind: 'screen' },
    { kind: 'corner', place: { ...place, corner: 'top-left', shape: 'circle', mirror: true } },
    { kind: 'side-by-side', camera: 'left', mirror: false, key: null },
    { kind: 'camera', mirror: false, key: null },
  ];
  const cut: Cut = {
    version: 4,
    marks: [],
    steps: layouts.map((layout, i) => ({
      ...PLAIN_STEP,
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
});

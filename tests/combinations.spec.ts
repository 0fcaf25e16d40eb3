// Six rigs that vary what is captured: each file shows its own source and its own camera, and nothing else is on it.
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import type { Size } from '@/core/base/sizes';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import type { PictureKind } from '@/practice/messages';
import type { LabWindow } from '@/ui/lab/lab';
import { rawOf } from './support/card-film';
import { keptTracks, streamOf } from './support/kept';
import { expect, recordEach } from './support/studio';
import { AT_LENGTH, test } from './support/test';

const HD = { width: 1920, height: 1080 };
/** Every source, and the size that its drawing has. */
const SCREENS = {
  desk: HD,
  'desk-2': { width: 1440, height: 900 },
  'window-planner': { width: 960, height: 640 },
  'window-log': { width: 1160, height: 720 },
  'window-labels': { width: 520, height: 480 },
  slides: { width: 1280, height: 720 },
  'test-card': HD,
} satisfies Partial<Record<PictureKind, Size>>;
const CAMERAS = { presenter: HD, 'presenter-green': HD } satisfies Partial<Record<PictureKind, Size>>;

type Screen = keyof typeof SCREENS;
type Camera = keyof typeof CAMERAS;
type Sounds = { voice: boolean; appSound: boolean };
const COMBINATIONS: [Screen, Camera | null, Sounds][] = [
  ['desk', 'presenter', { voice: true, appSound: true }],
  ['desk-2', null, { voice: true, appSound: false }],
  ['window-planner', 'presenter-green', { voice: false, appSound: true }],
  ['window-log', null, { voice: false, appSound: false }],
  ['window-labels', 'presenter', { voice: true, appSound: false }],
  ['slides', 'presenter-green', { voice: false, appSound: false }],
];

const rigOf = ([screen, camera, { voice, appSound }]: (typeof COMBINATIONS)[number]): Rig => ({
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, source: { from: 'practice', id: screen }, box: null },
  camera: camera &&
    PRACTICE_RIG.camera && { ...PRACTICE_RIG.camera, source: { from: 'practice', id: camera } },
  voice: voice ? PRACTICE_RIG.voice : null,
  appSound: appSound ? PRACTICE_RIG.appSound : null,
  countdownS: 0,
});

/** A picture in so few cells that a pointer or a word more or less does not matter. */
const CELLS = { width: 32, height: 18 };

/** Luma of a drawn picture in cells. */
function celled(luma: Uint8Array, { width, height }: Size): number[] {
  return Array.from({ length: CELLS.width * CELLS.height }, (_, cell) => {
    const [column, row] = [cell % CELLS.width, Math.floor(cell / CELLS.width)];
    const [left, right] = [column, column + 1].map((at) => Math.floor((at * width) / CELLS.width));
    const [top, bottom] = [row, row + 1].map((at) => Math.floor((at * height) / CELLS.height));
    let [sum, count] = [0, 0];
    for (let y = top ?? 0; y < (bottom ?? 0); y++)
      for (let x = left ?? 0; x < (right ?? 0); x++) {
        sum += luma[y * width + x] ?? 0;
        count++;
      }
    return sum / count;
  });
}

const apart = (a: readonly number[], b: readonly number[]) =>
  a.reduce((sum, value, i) => sum + Math.abs(value - (b[i] ?? 0)), 0) / a.length;

/** Somewhere in the minute of its script, which runs from when a source is opened. */
const TIMES_MS = Array.from({ length: 30 }, (_, i) => i * 2000);

/** What each source draws in a minute, in cells. */
async function drawings<Kind extends PictureKind>(page: Page, kinds: Record<Kind, Size>) {
  await page.goto('/lab');
  await page.waitForFunction(() => 'lab' in window);
  const drawn = new Map<Kind, number[][]>();
  for (const [kind, size] of Object.entries(kinds) as [Kind, Size][]) {
    const cells: number[][] = [];
    // Some at a time: a minute of pictures is more than one message should carry.
    for (let i = 0; i < TIMES_MS.length; i += 5) {
      const texts = await page.evaluate(
        ([kind, atMs]) => (window as unknown as LabWindow).lab.pristine(kind, atMs),
        [kind as PictureKind, TIMES_MS.slice(i, i + 5)] as const,
      );
      for (const text of texts) {
        const data = new Uint8Array(Buffer.from(text, 'base64'));
        expect(data.length, kind).toBe((size.width * size.height * 3) / 2);
        cells.push(celled(data, size));
      }
    }
    drawn.set(kind, cells);
  }
  return drawn;
}

/** The source whose drawing is nearest to a picture. */
function nearest<Kind>(picture: readonly number[], drawn: ReadonlyMap<Kind, number[][]>): Kind | undefined {
  const distances = [...drawn].map(([kind, pictures]) => ({
    kind,
    distance: Math.min(...pictures.map((each) => apart(each, picture))),
  }));
  return distances.sort((a, b) => a.distance - b.distance)[0]?.kind;
}

/** Luma of a picture in the middle of a track, in cells, in the range in which it is drawn: gray would be stretched to all 256 levels. */
const shownIn = async (film: string, stream: string): Promise<number[]> => {
  const filter = `scale=${CELLS.width}:${CELLS.height}:flags=area,format=yuv420p`;
  return [...(await rawOf(film, 1, stream, filter)).subarray(0, CELLS.width * CELLS.height)];
};

test('each of six combinations of source, camera and sounds is in its file, and nothing else is', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  test.setTimeout(300_000);
  const takes = await recordEach(page, COMBINATIONS.map(rigOf), 1800);
  const [screens, cameras] = [await drawings(page, SCREENS), await drawings(page, CAMERAS)];
  for (const [i, [screen, camera, { voice, appSound }]] of COMBINATIONS.entries()) {
    const folder = takes[i]?.folder ?? '';
    const film = join(folder, 'recorded.mkv');
    const name = `${screen}, ${camera ?? 'no camera'}`;
    const titles = (await keptTracks(folder)).map(({ title }) => title).sort();
    const expected = [voice && 'Voice', appSound && 'App sound', camera && 'Camera', 'Screen'];
    expect(titles, name).toEqual(expected.filter(Boolean).sort());
    expect(nearest(await shownIn(film, await streamOf(film, 'v', 'Screen')), screens), name).toBe(screen);
    if (camera)
      expect(nearest(await shownIn(film, await streamOf(film, 'v', 'Camera')), cameras), name).toBe(camera);
  }
});

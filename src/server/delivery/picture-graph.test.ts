import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, expect, it } from 'vitest';
import { type PictureGraph, pictureGraph } from '@/core/commands/picture-graph';
import { UNCHANGED_LOOKS } from '@/core/cut/looks';
import type { PictureInput } from '@/core/deliver/take-sources';
import { type ColourKey, firstKey, keyPixels } from '@/core/image/colour-key';
import { arrange } from '@/core/layout/layout';
import type { Layout } from '@/core/layout/layout-kinds';
import type { CameraPlace } from '@/core/rig/rig';
import { ffmpeg } from '../media/ffmpeg';
import { withGraphFiles } from './graph-files';

const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'otter-parts-'));
afterAll(() => rmSync(folder, { recursive: true }));

const SCREEN = { width: 320, height: 180 };
const CAMERA = { width: 160, height: 120 };
const RATE = { num: 10, den: 1 };

/** A segment of one colour that begins at a time of its take. */
async function segment(
  name: string,
  colour: string,
  { width, height }: typeof SCREEN,
  from: number,
  to: number,
) {
  const path = join(folder, `${name}.mkv`);
  const source = `color=c=${colour}:s=${width}x${height}:r=10:d=${to - from}`;
  const args = ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, '-c:v', 'ffv1', '-pix_fmt', 'yuv420p'];
  await run('ffmpeg', [...args, '-output_ts_offset', String(from), path]);
  return { path, size: { width, height }, startUs: from * 1e6, endUs: to * 1e6 };
}

const graphOf = (
  screens: PictureInput[],
  cameras: PictureInput[],
  layout: Layout,
  frames: number,
): PictureGraph =>
  pictureGraph(
    {
      ...{ screens, cameras, layout, rate: RATE, originUs: 0, speed: 1, frames },
      ...{ views: [], covers: [], looks: UNCHANGED_LOOKS },
    },
    null,
    SCREEN,
    join(folder, 'graph'),
  );

/** All pictures that a graph composes, as plain bytes. */
async function composed(graph: PictureGraph, format: 'gray' | 'rgb24'): Promise<Buffer> {
  const film = join(folder, 'film');
  const matrix = format === 'gray' ? '' : 'scale=in_color_matrix=bt709:in_range=tv,';
  const chains = [...graph.chains, `[picture]${matrix}format=${format}[out]`].join(';');
  const output = ['-map', '[out]', '-f', 'rawvideo', film];
  await withGraphFiles(graph.files, () =>
    ffmpeg(['-copyts', ...graph.inputs.args, '-filter_complex', chains, ...output]),
  );
  return readFileSync(film);
}

it.each<[Layout]>([
  [{ kind: 'side-by-side', camera: 'left', mirror: false, key: null }],
  [{ kind: 'camera', mirror: false, key: null }],
])('shows the screen by itself while the camera is away: %o', async (layout) => {
  const screen = await segment('screen', 'white', SCREEN, 0, 4);
  const faces = [await segment('face1', 'gray', CAMERA, 1, 2), await segment('face2', 'gray', CAMERA, 3, 4)];
  const graph = graphOf([screen], faces, layout, 40);
  const bytes = await composed(graph, 'gray');
  const area = SCREEN.width * SCREEN.height;
  expect(bytes.length).toBe(40 * area);
  const face = arrange(SCREEN, SCREEN, CAMERA, layout).camera?.at ?? { x: 0, y: 0, width: 0, height: 0 };
  const middle = (face.y + face.height / 2) * SCREEN.width + face.x + face.width / 2;
  const seen = (seconds: number, at: number) => bytes[seconds * 10 * area + at] ?? -1;
  for (const seconds of [0.5, 2.5])
    for (const at of [0, middle, area - 1]) expect(seen(seconds, at)).toBeGreaterThan(225);
  for (const seconds of [1.5, 3.5]) {
    expect(seen(seconds, middle)).toBeLessThan(150);
    expect(seen(seconds, 0)).toBeLessThan(60);
  }
});

it.each<[Layout]>([
  [{ kind: 'side-by-side', camera: 'right', mirror: false, key: firstKey('#3fae62') }],
  [{ kind: 'camera', mirror: false, key: firstKey('#3fae62') }],
])('takes the wall away where the camera stands for itself: %o', async (layout) => {
  const screen = await segment('screen', 'white', SCREEN, 0, 1);
  const wall = await segment('wall', '0x3fae62', CAMERA, 0, 1);
  const graph = graphOf([screen], [wall], layout, 5);
  const bytes = await composed(graph, 'gray');
  const { x, y, width, height } = arrange(SCREEN, SCREEN, CAMERA, layout).camera?.at ?? {
    ...{ x: 0, y: 0, width: 0, height: 0 },
  };
  const middle = bytes[Math.round(y + height / 2) * SCREEN.width + Math.round(x + width / 2)];
  // What is behind it is the dark ground; the wall would be at 140.
  expect(middle).toBeLessThan(50);
});

it('takes a wall away by its colour just as the player does, and draws the line around', async () => {
  const [width, height] = [96, 64];
  // Wall, somebody, and between them a soft edge; below, somebody with the wall's light on them.
  const [wall, skin] = [
    [63, 174, 98],
    [180, 130, 105],
  ];
  const mix = (share: number) => wall.map((level, i) => level + ((skin[i] ?? 0) - level) * share);
  const row = (y: number, x: number) =>
    y < 32 ? mix(Math.min(1, Math.max(0, (x - 32) / 32))) : mix(x < 32 ? 0 : x < 64 ? 0.7 : 1);
  const colours = Array.from({ length: height }, (_, y) =>
    Array.from({ length: width }, (__, x) => row(y, x)),
  ).flat();
  const rgb = Buffer.from(colours.flat().map(Math.round));
  const raw = join(folder, 'wall.rgb');
  writeFileSync(raw, rgb);
  const path = join(folder, 'wall.mkv');
  const input = ['-f', 'rawvideo', '-pix_fmt', 'rgb24', '-s', `${width}x${height}`, '-r', '10', '-i', raw];
  const matrix = 'scale=out_color_matrix=bt709:out_range=tv,format=yuv420p,loop=9:1';
  await run('ffmpeg', ['-v', 'error', '-y', ...input, '-vf', matrix, '-c:v', 'ffv1', path]);
  const screen = await segment('ground', 'white', SCREEN, 0, 1);
  const key: ColourKey = { colour: '#3fae62', tolerance: 0.08, softness: 0.1, spill: 0.7 };
  const place: CameraPlace = {
    corner: 'bottom-right',
    width: 0.3,
    shape: 'rectangle',
    mirror: false,
    free: null,
    border: { width: 0.0063, colour: '#17292b' },
    key,
  };
  const face = { path, size: { width, height }, startUs: 0, endUs: 1e6 };
  const layout: Layout = { kind: 'corner', place };
  const graph = graphOf([screen], [face], layout, 5);
  const film = await composed(graph, 'rgb24');
  const pixels = new Uint8ClampedArray(colours.flatMap((colour) => [...colour, 255]));
  keyPixels(pixels, width, height, key);
  const { at } = arrange(SCREEN, SCREEN, face.size, layout).camera ?? {
    at: { x: 0, y: 0, width: 0, height: 0 },
  };
  expect([at.width, at.height]).toEqual([width, height]);
  const seen = (x: number, y: number) => {
    const from = (3 * SCREEN.height * SCREEN.width + (at.y + y) * SCREEN.width + at.x + x) * 3;
    return [...film.subarray(from, from + 3)];
  };
  let worst = 0;
  for (const y of [8, 20, 44, 56])
    for (let x = 6; x < width - 6; x += 2) {
      // Where a colour begins all at once, 4:2:0 has already mixed it.
      if (y > 32 && (Math.abs(x - 32) < 4 || Math.abs(x - 64) < 4)) continue;
      const from = (y * width + x) * 4;
      const [r = 0, g = 0, b = 0, alpha = 0] = pixels.subarray(from, from + 4);
      const expected = [r, g, b].map((level) => 255 + ((level - 255) * alpha) / 255);
      const off = seen(x, y).map((level, i) => Math.abs(level - (expected[i] ?? 0)));
      worst = Math.max(worst, ...off);
    }
  expect(worst).toBeLessThan(12);
  expect(Math.min(...seen(12, 44))).toBeGreaterThan(243);
  expect(Math.max(...seen(0, 30))).toBeLessThan(70);
});

import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, expect, it } from 'vitest';
import type { Layout } from '@/core/cut/cut';
import { arrange } from '@/core/layout';
import { pictureGraph } from '@/core/render/picture-graph';
import { ffmpeg } from '../media/ffmpeg';

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

it.each<[Layout]>([
  [{ kind: 'side-by-side', camera: 'left', mirror: false }],
  [{ kind: 'camera', mirror: false }],
])('shows the screen by itself while the camera is away: %o', async (layout) => {
  const screen = await segment('screen', 'white', SCREEN, 0, 4);
  const faces = [await segment('face1', 'gray', CAMERA, 1, 2), await segment('face2', 'gray', CAMERA, 3, 4)];
  const graph = pictureGraph([screen], faces, layout, SCREEN, RATE, 0, 40, join(folder, 'mask.pgm'));
  if (graph.mask) {
    const { width, height, path } = graph.mask;
    await run('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      `color=white:s=${width}x${height}`,
      '-frames:v',
      '1',
      path,
    ]);
  }
  const film = join(folder, 'film.gray');
  const chains = [...graph.chains, '[picture]format=gray[out]'].join(';');
  await ffmpeg([
    '-copyts',
    ...graph.inputs,
    '-filter_complex',
    chains,
    '-map',
    '[out]',
    '-f',
    'rawvideo',
    film,
  ]);
  const bytes = readFileSync(film);
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

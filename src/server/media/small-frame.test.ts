import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { newTakeId } from '@/core/base/ids';
import { smallFrame } from './small-frame';

const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'otter-frame-'));
afterAll(() => rmSync(folder, { recursive: true }));

vi.mock('./media-folder', async (original) => ({
  ...(await original<object>()),
  madePath: (take: string) => join(folder, `${take}.mkv`),
}));

const [slides, sound, missing] = [newTakeId(), newTakeId(), newTakeId()];
beforeAll(async () => {
  // Three pictures, a second apart; picture n is of brightness 50 + 50n.
  const source = "color=c=gray:s=320x180:r=1:d=3,format=yuv420p,geq=lum='50+50*N':cb=128:cr=128";
  const make = (input: string, codec: string, take: string) =>
    run('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      input,
      ...codec.split(' '),
      join(folder, `${take}.mkv`),
    ]);
  await make(source, '-c:v ffv1', slides);
  await make('sine=f=300:d=1', '-c:a flac', sound);
});

/** Brightness in the middle of a JPEG, 0…255. */
async function brightness(jpeg: Buffer): Promise<number> {
  const path = join(folder, 'frame.jpg');
  writeFileSync(path, jpeg);
  const args = ['-v', 'error', '-i', path, '-vf', 'extractplanes=y,crop=1:1', '-f', 'rawvideo', '-'];
  const { stdout } = await run('ffmpeg', args, { encoding: 'buffer' });
  return stdout[0] ?? -1;
}

it.each([
  [0, 0],
  [500_000, 0],
  [1_000_000, 1],
  [1_500_000, 1],
  [2_900_000, 2],
  [9_000_000, 2],
])('at %i µs is the picture that was shown then: number %i', async (us, number) => {
  const wanted = ((50 + 50 * number - 16) * 255) / 219;
  expect(Math.abs((await brightness(await smallFrame(slides, us))) - wanted)).toBeLessThanOrEqual(6);
});

it('says so where there is none: no file yet, or sound alone', async () => {
  for (const take of [missing, sound])
    await expect(smallFrame(take, 0)).rejects.toMatchObject({ problem: { code: 'not-found' } });
});

it('many that are asked for at once all come', async () => {
  const all = await Promise.all(Array.from({ length: 7 }, (_, n) => smallFrame(slides, n * 400_000)));
  expect(all.every((jpeg) => jpeg.length > 100)).toBe(true);
});

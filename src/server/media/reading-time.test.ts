import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { characters, readingTimeUs } from '@/core/image/reading-time';
import { decode } from './ffmpeg';

const SIZE = { width: 1280, height: 720 };
const LINES = [
  'The seed library lends packets in spring and takes',
  'them back in autumn. Whoever borrows a packet sows',
  'what it holds and returns a part of the harvest.',
  'Beans, lettuce and tomatoes are good to begin with:',
  'their flowers seldom cross with those next door.',
];

let folder = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'otter-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** A picture with so many of the lines, drawn by FFmpeg. */
async function page(lines: number, how = 'font=Sans:fontsize=16:fontcolor=black', ground = 'white') {
  const text = join(folder, 'text.txt');
  await writeFile(text, LINES.slice(0, lines).join('\n'));
  const chunks: Buffer[] = [];
  const draw = lines > 0 ? [`-vf`, `drawtext=${how}:textfile=${text}:x=40:y=40:line_spacing=8`] : [];
  const source = ['-f', 'lavfi', '-i', `color=${ground}:s=1280x720`, ...draw];
  const gray = ['-frames:v', '1', '-pix_fmt', 'gray', '-f', 'rawvideo'];
  await decode([...source, ...gray], (data) => void chunks.push(data), new AbortController().signal);
  return { ...SIZE, data: new Uint8Array(Buffer.concat(chunks)) };
}

it.each([
  ['font=Sans:fontsize=14:fontcolor=black', 'white'],
  ['font=Mono:fontsize=16:fontcolor=white', '0x203040'],
  ['font=Serif:fontsize=20:fontcolor=0x444444', '0xf4f4f0'],
  ['font=Sans:fontsize=28:fontcolor=black', 'white'],
])('counts the characters of a picture, whatever its typeface, to a third: %s on %s', async (how, ground) => {
  const there = LINES.join('').length;
  const counted = characters(await page(LINES.length, how, ground));
  expect(counted / there).toBeGreaterThan(0.67);
  expect(counted / there).toBeLessThan(1.33);
});

it('gives more time to more text, and a look to a picture without any', async () => {
  const times = await Promise.all([0, 1, 3, 5].map(async (lines) => readingTimeUs(await page(lines)) / 1e6));
  expect(times[0]).toBe(1.5);
  // 247 characters are 41 words: 10 s at 238 words a minute, and a second to begin.
  expect(times[3]).toBeGreaterThan(8);
  expect(times[3]).toBeLessThan(14.5);
  expect([...times].sort((a, b) => a - b)).toEqual(times);
});

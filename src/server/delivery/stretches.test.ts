import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { frameTimeUs } from '@/core/base/rational';
import { UNCHANGED_LOOKS } from '@/core/cut/looks';
import { outputShape } from '@/core/deliver/output-shape';
import type { EncodedPart } from '@/core/deliver/picture-part';
import type { PlannedPicture } from '@/core/deliver/planned-picture';
import { inStretches } from '@/core/deliver/stretches';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { decode, ffmpeg } from '../media/ffmpeg';
import { probeFile } from '../media/probe-file';
import { joinParts } from './join';
import { makePart } from './make-part';

const RATE = { num: 12, den: 1 };
const SIZE = { width: 160, height: 96 };
const SOURCE_FRAMES = 560;
const attachment = DESTINATIONS.find(({ id }) => id === 'message-attachment') as Destination;
const signal = new AbortController().signal;

let folder = '';
let screen = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'otter-stretches-'));
  screen = join(folder, 'screen.mkv');
  // A picture's number in sixteen stripes, black and white, as in a recording with keyframes two seconds apart.
  const bits = "geq=lum='if(mod(floor(N/pow(2,floor(X/16))),2),235,16)':cb=128:cr=128";
  const scene = `color=black:s=160x96:r=12:d=${SOURCE_FRAMES / 12},${bits}`;
  await ffmpeg(
    ['-f', 'lavfi', '-i', scene, '-c:v', 'libx264', '-preset', 'ultrafast', '-g', '24', '-crf', '4', screen],
    { signal },
  );
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** The number that each picture of a file shows. */
async function numbersOf(path: string): Promise<number[]> {
  const numbers: number[] = [];
  let rest = Buffer.alloc(0);
  await decode(['-i', path, '-f', 'rawvideo', '-pix_fmt', 'gray', '-fps_mode', 'passthrough'], (data) => {
    let all = Buffer.concat([rest, data]);
    for (; all.length >= SIZE.width * SIZE.height; all = all.subarray(SIZE.width * SIZE.height)) {
      const bits = Array.from({ length: 10 }, (_, n) =>
        (all[48 * SIZE.width + 16 * n + 8] ?? 0) > 126 ? 2 ** n : 0,
      );
      numbers.push(bits.reduce((sum, bit) => sum + bit, 0));
    }
    rest = all;
  });
  return numbers;
}

it.each([1, 2])(
  'a part in stretches is the same pictures, none twice and none missing, at speed %i',
  async (speed) => {
    const frames = 270;
    const originUs = frameTimeUs(7, RATE);
    const part: EncodedPart = {
      ...{ kind: 'encode', name: `speed-${speed}`, encoder: { destination: attachment, crf: 20 } },
      ...{ atUs: 0, frames, durationUs: frameTimeUs(frames, RATE), rate: RATE, opening: null },
      compared: { every: 50, frames: [0, 50, 100, 150, 200, 250] },
      shot: {
        screens: [{ path: screen, size: SIZE, startUs: 0, endUs: frameTimeUs(SOURCE_FRAMES, RATE) }],
        ...{ cameras: [], layout: { kind: 'screen' }, rate: RATE, originUs, speed },
        ...{ frames, views: [], covers: [], looks: UNCHANGED_LOOKS },
      },
    };
    const parts = inStretches(part);
    expect(parts.length).toBe(2);
    const picture: PlannedPicture = { size: SIZE, shape: outputShape(SIZE, attachment), rate: RATE, parts };
    const judged = await Promise.all(
      parts.map((one) => makePart(one, picture, folder, () => undefined, signal)),
    );
    expect(judged.flat().length).toBe(6);
    const joined = join(folder, `joined-${speed}.mp4`);
    await joinParts(parts, RATE, folder, joined, signal);
    expect(await numbersOf(joined)).toEqual(Array.from({ length: frames }, (_, n) => 7 + n * speed));
    const [film] = (await probeFile(joined)).pictures;
    expect(film?.timesUs).toEqual(Array.from({ length: frames }, (_, n) => frameTimeUs(n, RATE)));
  },
);

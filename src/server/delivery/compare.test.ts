import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { UNCHANGED_LOOKS } from '@/core/cut/looks';
import { outputShape } from '@/core/deliver/output-shape';
import type { EncodedPart } from '@/core/deliver/picture-part';
import type { PlannedPicture } from '@/core/deliver/planned-picture';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { isClear } from '@/core/image/clarity';
import { ffmpeg } from '../media/ffmpeg';
import { type Compared, comparedOf } from './compare';
import { makePart } from './make-part';

const RATE = { num: 10, den: 1 };
const SIZE = { width: 640, height: 360 };
const attachment = DESTINATIONS.find(({ id }) => id === 'message-attachment') as Destination;
const signal = new AbortController().signal;

let folder = '';
let screen = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "otter's [two] | three \\ four -"));
  screen = join(folder, 'screen.mkv');
  const lines = Array.from({ length: 9 }, (_, n) => {
    const place = `fontsize=18:fontcolor=black:x=24+${n}:y=${20 + 36 * n}`;
    return `drawtext=font=Sans:text='Runner bean, Painted Lark, lot 04${n}8, checked in':${place}`;
  });
  const scene = [`color=white:s=640x360:r=10:d=2`, ...lines].join(',');
  await ffmpeg(['-f', 'lavfi', '-i', scene, '-c:v', 'ffv1', '-pix_fmt', 'yuv420p', screen], { signal });
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Two seconds of small text, encoded in so large a box at so coarse a quantizer, and compared. */
async function comparedAt(box: typeof SIZE, crf: number): Promise<Compared> {
  const destination = { ...attachment, video: { ...attachment.video, box } };
  const input = { path: screen, size: SIZE, startUs: 0, endUs: 2_000_000 };
  const part: EncodedPart = {
    ...{ kind: 'encode', name: `${box.width}-${crf}`, encoder: { destination, crf } },
    ...{ atUs: 0, frames: 20, durationUs: 2_000_000, rate: RATE, opening: null },
    compared: { every: 5, frames: [0, 5, 10, 15] },
    shot: {
      ...{ screens: [input], cameras: [], layout: { kind: 'screen' }, rate: RATE, originUs: 0, speed: 1 },
      ...{ frames: 20, views: [], covers: [], looks: UNCHANGED_LOOKS },
    },
  };
  const picture: PlannedPicture = {
    ...{ size: SIZE, shape: outputShape(SIZE, destination), rate: RATE, parts: [part] },
  };
  return comparedOf(await makePart(part, picture, folder, () => undefined, signal));
}

it('what scaling takes from text is told, and is not taken for the encoder’s doing', async () => {
  const half = { width: 320, height: 180 };
  const fine = await comparedAt(half, 14);
  expect(fine.clarity?.pictures).toBe(4);
  expect(isClear(fine.clarity, null)).toBe(false);
  expect(fine.isEncodedClearly).toBe(true);
  const coarse = await comparedAt(half, 48);
  expect(coarse.isEncodedClearly).toBe(false);
});

it('where nothing is scaled the encoder answers for all of it', async () => {
  const fine = await comparedAt(SIZE, 14);
  expect([isClear(fine.clarity, fine.colour), fine.isEncodedClearly]).toEqual([true, true]);
  const coarse = await comparedAt(SIZE, 48);
  expect([isClear(coarse.clarity, coarse.colour), coarse.isEncodedClearly]).toEqual([false, false]);
});

it('leaves no picture that was kept for comparing', async () => {
  await comparedAt({ width: 320, height: 180 }, 30);
  expect((await readdir(folder)).filter((name) => name.endsWith('.yuv'))).toEqual([]);
});

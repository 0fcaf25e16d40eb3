// The effects of a step as ffmpeg really makes them: every byte of small films is compared.
import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pictureGraph } from '@/core/commands/picture-graph';
import { type Cover, viewAt, views, WHOLE } from '@/core/cut/area';
import { onYuv, UNCHANGED_LOOKS } from '@/core/cut/looks';
import type { Opening, Shot } from '@/core/deliver/shot';
import type { PictureInput } from '@/core/deliver/take-sources';
import { firstKey } from '@/core/image/colour-key';
import { FIRST_PLACE } from '@/core/rig/rig';
import { sameBytes } from '../../../tests/support/bytes';
import { ffmpeg } from '../media/ffmpeg';
import { withGraphFiles } from './graph-files';

const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'otter-effects-'));
afterAll(() => rmSync(folder, { recursive: true }));

const SIZE = { width: 320, height: 180 };
const AREA = SIZE.width * SIZE.height;
const RATE = { num: 10, den: 1 };

/** A film of ten seconds whose brightness is an expression over X, Y and N, the number of its frame. */
async function film(name: string, brightness: string): Promise<PictureInput> {
  const path = join(folder, `${name}.mkv`);
  const source = `color=c=gray:s=320x180:r=10:d=10,format=yuv420p,geq=lum='${brightness}':cb=128:cr=128`;
  await run('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, '-c:v', 'ffv1', path]);
  return { path, size: SIZE, startUs: 0, endUs: 10e6 };
}

const shotOf = (screen: PictureInput, change: Partial<Shot> = {}): Shot => ({
  ...{ screens: [screen], cameras: [], layout: { kind: 'screen' }, rate: RATE, originUs: 0, speed: 1 },
  ...{ frames: 20, views: [], covers: [], looks: UNCHANGED_LOOKS },
  ...change,
});

/** Every frame that is composed, its brightness alone, a byte a pixel. */
async function made(shot: Shot, opening: Opening | null = null): Promise<Uint8Array[]> {
  const graph = pictureGraph(shot, opening, SIZE, join(folder, 'graph'));
  const path = join(folder, 'made');
  const chains = [...graph.chains, '[picture]extractplanes=y[out]'].join(';');
  await withGraphFiles(graph.files, () =>
    ffmpeg([
      ...['-copyts', ...graph.inputs.args],
      '-filter_complex',
      chains,
      '-map',
      '[out]',
      '-f',
      'rawvideo',
      path,
    ]),
  );
  const bytes = readFileSync(path);
  expect(bytes.length).toBe(shot.frames * AREA);
  return Array.from({ length: shot.frames }, (_, n) => bytes.subarray(n * AREA, (n + 1) * AREA));
}

const pixel = (frame: Uint8Array | undefined, x: number, y: number) => frame?.[y * SIZE.width + x] ?? -1;
const middle = (frame: Uint8Array | undefined) => pixel(frame, 160, 90);
const mean = (frame: Uint8Array = new Uint8Array()) => frame.reduce((sum, value) => sum + value, 0) / AREA;

let counted: PictureInput;
let ramp: PictureInput;
let stripes: PictureInput;
beforeAll(async () => {
  // Frame n is of brightness 20 + 2n everywhere.
  counted = await film('counted', '20+2*N');
  ramp = await film('ramp', '20+X/2');
  stripes = await film('stripes', '20+200*mod(floor(X/2)+floor(Y/2),2)');
});

describe('speed', () => {
  it.each([0.25, 0.5, 2, 4])('%s shows the picture that stood at each time', async (speed) => {
    const frames = await made(shotOf(counted, { originUs: 1_000_000, speed }));
    // Half a recorded frame later the next one counts.
    const seen = frames.map((frame) => (middle(frame) - 20) / 2);
    expect(seen).toEqual(frames.map((_, n) => Math.ceil(10 + n * speed - 0.5)));
  });

  it('of a held picture is none: all frames are that one', async () => {
    const frames = await made(shotOf(counted, { originUs: 3_000_000, speed: 0, frames: 45 }));
    expect(new Set(frames.map(middle))).toEqual(new Set([20 + 2 * 30]));
  });
});

describe('a slide that is held', () => {
  /** A film of so many slides at 1 fps; slide n is of brightness 50 + 50n everywhere. */
  async function slides(count: number): Promise<PictureInput> {
    const path = join(folder, `slides-${count}.mkv`);
    const source = `color=c=gray:s=320x180:r=1:d=${count},format=yuv420p,geq=lum='50+50*N':cb=128:cr=128`;
    await run('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, '-c:v', 'ffv1', path]);
    return { path, size: SIZE, startUs: 0, endUs: count * 1e6 };
  }

  it.each([
    [1, 0],
    [3, 0],
    [3, 1],
    [3, 2],
  ])('of %i slides, number %i, is that slide in every frame', async (count, slide) => {
    const shot = shotOf(await slides(count), { speed: 0, originUs: slide * 1e6 + 500_000, frames: 12 });
    expect((await made(shot)).map(middle)).toEqual(Array(12).fill(50 + 50 * slide));
  });
});

describe('zoom', () => {
  const zooms = [
    {
      fromUs: 500_000,
      toUs: 3_500_000,
      area: { x: 0.5, y: 0.25, width: 0.25, height: 0.25 },
      easeUs: 1_000_000,
    },
  ];

  it('shows the area that each time asks for, to less than half a pixel', async () => {
    const keys = views(zooms, 10_000_000);
    const frames = await made(shotOf(ramp, { views: keys, frames: 40 }));
    frames.forEach((frame, n) => {
      const { x, width } = viewAt(keys, n * 100_000);
      for (const at of [40, 160, 280]) {
        // What lies in the middle of a pixel: half a pixel of the ramp is a quarter of a level.
        const recorded = (x + ((at + 0.5) / SIZE.width) * width) * SIZE.width - 0.5;
        expect(Math.abs(pixel(frame, at, 90) - (20 + recorded / 2)), `frame ${n} at ${at}`).toBeLessThan(1);
      }
    });
  });

  it('leaves every bit of the picture alone while nothing is zoomed', async () => {
    const plain = await made(shotOf(stripes, { frames: 5 }));
    const zoomed = await made(shotOf(stripes, { frames: 5, views: views(zooms, 10_000_000) }));
    for (const n of [0, 4]) expect(sameBytes(zoomed[n], plain[n])).toBe(true);
  });

  it('moves over a picture that is held', async () => {
    const keys = views(zooms, 10_000_000);
    const frames = await made(shotOf(ramp, { views: keys, frames: 30, speed: 0, originUs: 2_000_000 }));
    expect(pixel(frames[0], 0, 90)).toBeLessThan(22);
    expect(pixel(frames[25], 0, 90)).toBeCloseTo(20 + 160 / 2, -0.5);
  });
});

describe('covers', () => {
  const cover = (kind: Cover['kind']): Cover => ({
    ...{ kind, fromUs: 500_000, toUs: 1_500_000 },
    area: { x: 0.25, y: 0.25, width: 0.5, height: 0.125 },
  });
  /** The pixels of a frame whose place is like this. */
  const pixels = (frame: Uint8Array | undefined, isWanted: (x: number, y: number) => boolean): Uint8Array =>
    (frame ?? new Uint8Array()).filter((_, i) => isWanted(i % SIZE.width, Math.floor(i / SIZE.width)));
  const inside = (frame: Uint8Array | undefined) =>
    pixels(frame, (x, y) => x >= 80 && x < 240 && y >= 46 && y < 66);
  const outside = (frame: Uint8Array | undefined) =>
    pixels(frame, (x, y) => x < 78 || x >= 242 || y < 42 || y >= 70);
  const spread = (values: Iterable<number>) => Math.max(...values) - Math.min(...values);

  it.each(['blur', 'colour'] as const)(
    'of %s leave nothing to read in their area, nothing outside it, and end to the frame',
    async (kind) => {
      const plain = await made(shotOf(stripes));
      const frames = await made(shotOf(stripes, { covers: [cover(kind)] }));
      frames.forEach((frame, n) => {
        const isCovered = n >= 5 && n < 15;
        expect(sameBytes(outside(frame), outside(plain[n])), `frame ${n} outside`).toBe(true);
        if (!isCovered) expect(sameBytes(frame, plain[n]), `frame ${n}`).toBe(true);
        // The stripes are 200 levels apart.
        else expect(spread(inside(frame)), `frame ${n}`).toBeLessThanOrEqual(12);
      });
    },
  );

  it('are zoomed with what they cover', async () => {
    const area = { x: 0.3, y: 0.28, width: 0.0625, height: 0.0625 };
    const zoom = { fromUs: 0, toUs: 10_000_000, area, easeUs: 0 };
    const covers = [{ ...cover('colour'), fromUs: 0, toUs: 10_000_000 }];
    const [frame] = await made(shotOf(stripes, { covers, views: views([zoom], 10_000_000), frames: 1 }));
    expect(spread(frame ?? [])).toBeLessThanOrEqual(2);
  });
});

it('brightness and contrast are what their formula says', async () => {
  const look = { brightness: 1.2, contrast: 0.8, saturation: 1 };
  const { yGain, yOffset } = onYuv(look);
  const [frame] = await made(shotOf(ramp, { looks: { ...UNCHANGED_LOOKS, screen: look }, frames: 1 }));
  for (let x = 0; x < SIZE.width; x += 7) {
    const before = 20 + Math.floor(x / 2);
    const wanted = Math.min(235, 16 + (before - 16) * yGain + 219 * yOffset);
    expect(Math.abs(pixel(frame, x, 90) - wanted)).toBeLessThanOrEqual(1.5);
  }
});

it('the camera’s colours change after its background is keyed out: the key is that of the recording', async () => {
  const path = join(folder, 'wall.mkv');
  const wall = 'color=c=0x3fae62:s=160x120:r=10:d=10,format=yuv420p';
  await run('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', wall, '-c:v', 'ffv1', path]);
  const camera = { path, size: { width: 160, height: 120 }, startUs: 0, endUs: 10e6 };
  const place = { ...FIRST_PLACE, shape: 'rectangle' as const, key: { ...firstKey('#3fae62'), spill: 0 } };
  const looks = { ...UNCHANGED_LOOKS, camera: { brightness: 1, contrast: 1, saturation: 0 } };
  const plain = await made(shotOf(ramp, { frames: 1 }));
  const keyed = { cameras: [camera], layout: { kind: 'corner' as const, place }, looks, frames: 1 };
  const [frame] = await made(shotOf(ramp, keyed));
  // Nothing of the wall is left over the screen.
  const off = (frame ?? new Uint8Array()).reduce(
    (most: number, value, i) => Math.max(most, Math.abs(value - (plain[0]?.[i] ?? 0))),
    0,
  );
  expect(off).toBeLessThanOrEqual(3);
});

describe('a step begins', () => {
  const from = (frames: number, kind: Opening['kind']): Opening => ({
    ...{ kind, frames },
    from: shotOf(counted, { originUs: 9_000_000, frames: 1 }),
  });

  it('with a dissolve from the last picture before it, evenly, and is itself from then on', async () => {
    const frames = await made(shotOf(counted), from(10, 'dissolve'));
    frames.forEach((frame, n) => {
      const [own, before] = [20 + 2 * n, 20 + 2 * 90];
      const share = Math.max(0, 1 - n / 10);
      expect(Math.abs(mean(frame) - (own + (before - own) * share)), `frame ${n}`).toBeLessThan(2);
    });
  });

  it('with a dip to the ground in the middle', async () => {
    const frames = await made(shotOf(counted), from(10, 'dip'));
    expect(mean(frames[0])).toBeCloseTo(20 + 2 * 90, -0.5);
    expect(mean(frames[5])).toBeLessThan(45);
    expect(mean(frames[3])).toBeLessThan(mean(frames[1]));
    expect(mean(frames[12])).toBeCloseTo(20 + 2 * 12, -0.5);
  });
});

it('a picture that is all seen has no view', () => {
  expect(views([], 1_000_000)).toEqual([]);
  expect(viewAt([], 0)).toEqual(WHOLE);
});

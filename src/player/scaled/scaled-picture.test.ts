import { readFile } from 'node:fs/promises';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Rect, Size } from '@/core/base/sizes';
import { yuvOf } from '@/core/image/bt709';
import { weight } from '@/core/image/resample';
import { type Kernel, kernelOf } from './kernel';
import { openScaler, type Planar } from './scaled-picture';

let kernel: Kernel;
beforeAll(async () => {
  const file = await readFile(new URL('./kernel.wasm', import.meta.url));
  kernel = kernelOf((await WebAssembly.instantiate(file)).instance);
});

/** A picture in memory, whose parts are copied as a browser copies them. */
function planar(size: Size, planes: Uint8Array[]): Planar {
  return {
    ...size,
    copy: async (part, target) => {
      let at = 0;
      planes.forEach((plane, i) => {
        const half = i === 0 ? 1 : 2;
        const width = size.width / half;
        for (let y = part.y / half; y < (part.y + part.height) / half; y++) {
          const row = y * width + part.x / half;
          target.set(plane.subarray(row, row + part.width / half), at);
          at += part.width / half;
        }
      });
      expect(at).toBe(target.length);
    },
  };
}

/** Far enough from either end that no filter goes beyond it on the way. */
const noise = (size: Size, seed: number): Uint8Array[] =>
  [1, 2, 2].map((half, plane) => {
    let state = seed + plane;
    return new Uint8Array((size.width * size.height) / half ** 2).map(() => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      return 60 + ((state >>> 16) % 136);
    });
  });

const limited = (value: number) => Math.min(255, Math.max(0, value));

/** One sample of a plane, in floating point and from all of the plane. */
function sampleOf(plane: Uint8Array, size: Size, from: Rect, to: Size, x: number, y: number): number {
  const along = (start: number, length: number, count: number, of: number, n: number) => {
    const ratio = length / count;
    const spread = Math.max(1, ratio);
    const middle = start + (n + 0.5) * ratio - 0.5;
    const weights = Array.from({ length: of }, (_, at) =>
      weight(ratio > 1 ? 'bilinear' : 'bicubic', (at - middle) / spread),
    );
    const sum = weights.reduce((a, b) => a + b, 0);
    return weights.flatMap((one, at) => (one === 0 ? [] : [{ at, share: one / sum }]));
  };
  let sum = 0;
  for (const row of along(from.y, from.height, to.height, size.height, y)) {
    let line = 0;
    for (const column of along(from.x, from.width, to.width, size.width, x))
      line += column.share * (plane[row.at * size.width + column.at] ?? 0);
    sum += row.share * line;
  }
  return sum;
}

/** BT.709, limited range, backwards. */
function rgbOf(y: number, u: number, v: number): number[] {
  const luma = (255 / 219) * (y - 16);
  const [blueness, redness] = [(255 / 224) * (u - 128), (255 / 224) * (v - 128)];
  return [
    luma + 1.5748 * redness,
    luma - (0.0722 * 1.8556 * blueness + 0.2126 * 1.5748 * redness) / 0.7152,
    luma + 1.8556 * blueness,
  ].map(limited);
}

const evenSide = fc.integer({ min: 8, max: 40 }).map((half) => 2 * half);
const picture = fc.record({ width: evenSide, height: evenSide });
const canvas = fc.record({
  width: fc.integer({ min: 1, max: 70 }),
  height: fc.integer({ min: 1, max: 50 }),
});
const share = fc.double({ min: 0, max: 1, noNaN: true });
const part = fc
  .tuple(picture, share, share, share, share)
  .map(([size, left, top, across, down]): [Size, Rect] => {
    const [width, height] = [4 + (size.width - 4) * across, 4 + (size.height - 4) * down];
    return [size, { x: (size.width - width) * left, y: (size.height - height) * top, width, height }];
  });

describe('a picture that is scaled by the kernel', () => {
  it('is what the filters and BT.709 say of noise, in any part and any size: within five levels, and 0.8 on the mean of all', async () => {
    const all: number[] = [];
    await fc.assert(
      fc.asyncProperty(part, canvas, fc.integer({ min: 0, max: 1e6 }), async ([size, from], to, seed) => {
        const planes = noise(size, seed);
        const pixels = await openScaler(kernel)(planar(size, planes), from, to);
        expect(pixels.length).toBe(4 * to.width * to.height);
        const half = { width: size.width / 2, height: size.height / 2 };
        const halfFrom = { x: from.x / 2, y: from.y / 2, width: from.width / 2, height: from.height / 2 };
        const errors: number[] = [];
        for (let n = 0; n < 40; n++) {
          // Corners first, then anywhere.
          const at = [0, to.width - 1, (to.height - 1) * to.width, to.height * to.width - 1];
          const pixel = at[n] ?? (seed * (n + 1) * 7919) % (to.width * to.height);
          const [x, y] = [pixel % to.width, Math.floor(pixel / to.width)];
          const [luma, u, v] = planes.map((plane, i) =>
            sampleOf(plane, i === 0 ? size : half, i === 0 ? from : halfFrom, to, x, y),
          ) as [number, number, number];
          const seen = [...pixels.slice(4 * pixel, 4 * pixel + 4)];
          expect(seen.pop()).toBe(255);
          errors.push(...rgbOf(luma, u, v).map((wished, i) => Math.abs((seen[i] ?? -99) - wished)));
        }
        expect(Math.max(...errors)).toBeLessThanOrEqual(5);
        all.push(...errors);
      }),
      { numRuns: 100 },
    );
    expect(all.reduce((a, b) => a + b) / all.length).toBeLessThanOrEqual(0.8);
  });

  it('keeps colours: what was turned into Y′CbCr comes back', async () => {
    const size = { width: 32, height: 32 };
    const colours: [number, number, number][] = [
      [0, 0, 0],
      [255, 255, 255],
      [255, 0, 0],
      [0, 255, 0],
      [0, 0, 255],
      [31, 111, 80],
    ];
    for (const colour of colours) {
      const planes = yuvOf(...colour).map((value, i) => new Uint8Array(i === 0 ? 1024 : 256).fill(value));
      for (const to of [size, { width: 13, height: 9 }, { width: 75, height: 50 }]) {
        const pixels = await openScaler(kernel)(
          planar(size, planes),
          { x: 3, y: 1, width: 20, height: 18 },
          to,
        );
        const seen = new Set(
          Array.from({ length: to.width * to.height }, (_, n) => pixels.slice(4 * n, 4 * n + 3).join(' ')),
        );
        expect(seen.size).toBe(1);
        const [first = ''] = seen;
        first.split(' ').forEach((value, i) => {
          expect(Math.abs(Number(value) - (colour[i] ?? 0)), first).toBeLessThanOrEqual(2);
        });
      }
    }
  });

  it('gives each of several pictures that are asked for at once its own pixels', async () => {
    const size = { width: 64, height: 48 };
    const scale = openScaler(kernel);
    const all = { x: 0, y: 0, ...size };
    const shades = [16, 60, 120, 180, 235].map((luma) =>
      planar(size, [
        new Uint8Array(64 * 48).fill(luma),
        new Uint8Array(32 * 24).fill(128),
        new Uint8Array(32 * 24).fill(128),
      ]),
    );
    const seen = await Promise.all(
      shades.map((shade, n) => scale(shade, all, { width: 20 + n, height: 10 }).then((pixels) => pixels[0])),
    );
    expect(seen).toEqual([0, 51, 121, 191, 255]);
  });

  it('goes on after a picture that could not be copied', async () => {
    const size = { width: 16, height: 16 };
    const scale = openScaler(kernel);
    const broken: Planar = { ...size, copy: () => Promise.reject(new Error('The frame is closed.')) };
    const all = { x: 0, y: 0, ...size };
    await expect(scale(broken, all, size)).rejects.toThrow('The frame is closed.');
    const white = planar(size, [
      new Uint8Array(256).fill(235),
      ...[0, 1].map(() => new Uint8Array(64).fill(128)),
    ]);
    expect((await scale(white, all, size)).every((value) => value === 255)).toBe(true);
  });
});

it('ships the kernel that its source makes', async () => {
  const { default: asc } = await import('assemblyscript/asc');
  const source = await readFile('wasm/scaled-picture.ts', 'utf8');
  const { error, binary } = await asc.compileString(source, {
    ...{ optimizeLevel: 3, noAssert: true, runtime: 'stub', enable: ['simd'] },
  });
  expect(error).toBeNull();
  const shipped = await readFile(new URL('./kernel.wasm', import.meta.url));
  expect(Buffer.from(binary ?? []).equals(shipped)).toBe(true);
});

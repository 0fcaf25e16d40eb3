import fc from 'fast-check';
import { expect, it } from 'vitest';
import { ProblemError } from '../base/problem';
import { codecString } from './codec-string';
import { VideoCodec } from './codecs';
import {
  brokenLimits,
  LEVELS,
  largestPicture,
  levelAdvice,
  lowestLevel,
  mostFramesPerSecond,
  referencePictures,
} from './levels';

const HD = { width: 1280, height: 720 };
const FULL = { width: 1920, height: 1080 };
const at = (num: number, den = 1) => ({ num, den });

it('chooses the level that the standards name', () => {
  const h264 = (width: number, height: number, fps: number, bitrateKbps = 8000) =>
    lowestLevel('h264', { size: { width, height }, rate: at(fps), bitrateKbps })?.name;
  expect([h264(1280, 720, 30), h264(1920, 1080, 30), h264(1920, 1080, 60), h264(3840, 2160, 30)]).toEqual([
    '3.1',
    '4.0',
    '4.2',
    '5.1',
  ]);
  // 1080 lines are 68 rows of macroblocks: 30 pictures per second fit into 4.0 by less than one more.
  const four = LEVELS.h264.find(({ name }) => name === '4.0');
  expect(four && mostFramesPerSecond('h264', four, FULL)).toBe(30);
  expect([h264(1920, 1080, 30, 25_000), h264(1920, 1080, 30, 25_001)]).toEqual(['4.0', '4.1']);
  expect(codecString('h264', { size: FULL, rate: at(30), bitrateKbps: 8000 })).toBe('avc1.640028');
  expect(codecString('vp9', { size: HD, rate: at(30), bitrateKbps: 2000 })).toBe('vp09.00.31.08');
  expect(codecString('av1', { size: FULL, rate: at(30), bitrateKbps: 2000 })).toBe('av01.0.08M.08');
  expect(() =>
    codecString('h264', { size: { width: 7680, height: 4320 }, rate: at(240), bitrateKbps: 2000 }),
  ).toThrow(ProblemError);
});

it('names a limit that is broken, and what it proposes keeps all of them', () => {
  const even = (max: number) => fc.integer({ min: 32, max: max / 2 }).map((half) => 2 * half);
  fc.assert(
    fc.property(
      fc.constantFrom(...VideoCodec.options),
      fc.nat(),
      fc.record({ width: even(7680), height: even(4320) }),
      fc.constantFrom(at(5), at(15), at(24_000, 1001), at(30), at(60_000, 1001), at(60)),
      fc.integer({ min: 100, max: 200_000 }),
      (codec, n, size, rate, bitrateKbps) => {
        const level = LEVELS[codec][n % LEVELS[codec].length];
        if (!level) return;
        const stream = { size, rate, bitrateKbps };
        const broken = brokenLimits(codec, level, stream);
        const advice = levelAdvice(codec, level, stream);
        expect(advice === null).toBe(broken.length === 0);
        const smaller = largestPicture(codec, level, size, rate);
        if (smaller.width > 16)
          expect(brokenLimits(codec, level, { ...stream, size: smaller, bitrateKbps: 0 })).toEqual([]);
        const fewer = mostFramesPerSecond(codec, level, size);
        if (fewer > 0) {
          expect(brokenLimits(codec, level, { size, rate: at(fewer), bitrateKbps: 0 })).toEqual([]);
          expect(brokenLimits(codec, level, { size, rate: at(fewer + 1), bitrateKbps: 0 })).toEqual([
            'frame-rate',
          ]);
        }
        const lowest = lowestLevel(codec, stream);
        if (!lowest) return;
        // Whatever is below it breaks something; itself breaks nothing.
        for (const other of LEVELS[codec].slice(0, LEVELS[codec].indexOf(lowest)))
          expect(brokenLimits(codec, other, stream)).not.toEqual([]);
      },
    ),
  );
});

it('keeps as many references as a decoder of the level has room for, and a higher level never fewer', () => {
  // ITU-T H.264 A.3.1: what 1080 lines are known for, four at 4.0 and thirteen at 5.0.
  const known = [
    [40, FULL, 4],
    [42, FULL, 4],
    [50, FULL, 13],
    [31, HD, 5],
    [41, HD, 9],
    [51, { width: 3840, height: 2160 }, 5],
    [52, { width: 320, height: 180 }, 16],
  ] as const;
  expect(known.map(([level, size]) => referencePictures(level, size))).toEqual(
    known.map(([, , count]) => count),
  );
  const codes = LEVELS.h264.map(({ code }) => code);
  const sizes = fc.record({
    width: fc.integer({ min: 32, max: 8000 }),
    height: fc.integer({ min: 32, max: 8000 }),
  });
  fc.assert(
    fc.property(sizes, (size) => {
      const counts = codes.map((code) => referencePictures(code, size));
      expect(counts).toEqual(counts.toSorted((a, b) => a - b));
    }),
  );
});

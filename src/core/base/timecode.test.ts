import fc from 'fast-check';
import { expect, it } from 'vitest';
import { frameTimeUs } from './rational';
import { readTimecode, steppedUs, timecodeText } from './timecode';

const rates = fc.constantFrom(
  { num: 24, den: 1 },
  { num: 25, den: 1 },
  { num: 30, den: 1 },
  { num: 60, den: 1 },
  { num: 15, den: 1 },
  { num: 30_000, den: 1001 },
  { num: 24_000, den: 1001 },
);

it('writes a place so that its frames count up to the rate', () => {
  const whole = rates.filter(({ den }) => den === 1);
  fc.assert(
    fc.property(whole, fc.integer({ min: 0, max: 400_000 }), (rate, n) => {
      const [frame = 0, second = 0, minute = 0, hour = 0] = timecodeText(frameTimeUs(n, rate), rate)
        .split(':')
        .map(Number)
        .reverse();
      expect(((hour * 60 + minute) * 60 + second) * rate.num + frame).toBe(n);
    }),
  );
  const ntsc = { num: 30_000, den: 1001 };
  expect([timecodeText(0, ntsc), timecodeText(1_001_000, ntsc), timecodeText(61_500_000, ntsc)]).toEqual([
    '0:00:00',
    '0:01:00',
    '1:01:14',
  ]);
});

it('reads the place of every frame from what is shown of it', () => {
  fc.assert(
    fc.property(rates, fc.integer({ min: 0, max: 400_000 }), (rate, n) => {
      const us = frameTimeUs(n, rate);
      expect(readTimecode(timecodeText(us, rate), rate)).toBe(us);
    }),
  );
});

it('reads minutes and seconds alone, and refuses what is no place', () => {
  const rate = { num: 30, den: 1 };
  expect(readTimecode('1:05', rate)).toBe(65_000_000);
  expect(readTimecode(' 1:00:05:03 ', rate)).toBe(3_605_100_000);
  for (const text of ['', '7', '0:60', '0:01:30', '1:60:00:00', '0:-1', 'a:b', '0:01:02:03:04'])
    expect(readTimecode(text, rate), text).toBeNull();
});

it('steps by exactly one frame, on and back, from anywhere within a frame', () => {
  fc.assert(
    fc.property(
      rates,
      fc.integer({ min: 1, max: 400_000 }),
      fc.double({ min: 0, max: 0.98, noNaN: true }),
      (rate, n, into) => {
        const us = frameTimeUs(n, rate) + Math.floor((into * 1e6 * rate.den) / rate.num);
        const on = steppedUs(us, 1, rate, Number.POSITIVE_INFINITY);
        expect(on).toBe(frameTimeUs(n + 1, rate));
        expect(steppedUs(us, -1, rate, Number.POSITIVE_INFINITY)).toBe(frameTimeUs(n - 1, rate));
        expect(steppedUs(on, -1, rate, Number.POSITIVE_INFINITY)).toBe(frameTimeUs(n, rate));
      },
    ),
  );
  const rate = { num: 30, den: 1 };
  expect([steppedUs(0, -1, rate, 5e6), steppedUs(5e6, 1, rate, 5e6)]).toEqual([0, 5e6]);
});

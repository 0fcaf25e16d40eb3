import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  earliestArrivalOffsetUs,
  elapsedUs,
  pairedOffsetUs,
  pauseClock,
  pausesOnTake,
  resumeClock,
  startClock,
  takeTimeUs,
} from './clock';
import { missingBetween, withSequence } from './sequence';

describe('the take’s clock', () => {
  it('is negative before the start, nowhere inside a pause, and has no gap after one', () => {
    let clock = startClock(1000);
    clock = resumeClock(pauseClock(clock, 5000), 9000);
    expect(takeTimeUs(clock, 999)).toBe(-1);
    expect(takeTimeUs(clock, 4999)).toBe(3999);
    expect(takeTimeUs(clock, 5000)).toBeNull();
    expect(takeTimeUs(clock, 9000)).toBe(4000);
    expect(pausesOnTake(clock)).toEqual([{ atUs: 4000, durationUs: 4000 }]);
    expect(elapsedUs(pauseClock(clock, 10_000), 99_000)).toBe(5000);
  });

  it('rises by exactly the time that was not paused', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(1e6), fc.nat(1e6)), { maxLength: 20 }), (spans) => {
        let now = 500;
        let running = 0;
        let clock = startClock(now);
        for (const [run, rest] of spans) {
          now += run;
          running += run;
          clock = pauseClock(clock, now);
          now += rest;
          clock = resumeClock(clock, now);
        }
        expect(takeTimeUs(clock, now + 7)).toBe(running + 7);
        expect(elapsedUs(clock, now + 7)).toBe(running + 7);
        expect(pausesOnTake(clock).reduce((sum, p) => sum + p.durationUs, running)).toBe(now - 500);
      }),
    );
  });
});

it('counts what is missing between two timestamps, and moves them by less than 256 µs', () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e9, max: 1e12 }), fc.nat(1e6), fc.nat(254), (at, sequence, missing) => {
      const [before, after] = [withSequence(at, sequence), withSequence(at + 33_333, sequence + 1 + missing)];
      expect(missingBetween(before, after)).toBe(missing);
      expect(Math.abs(before - at)).toBeLessThan(256);
    }),
  );
});

describe('offsets', () => {
  it('takes the shortest delay, and the most frequent difference of pairs', () => {
    expect(
      earliestArrivalOffsetUs([
        { arrivedUs: 1050, timestampUs: 40 },
        { arrivedUs: 2004, timestampUs: 1000 },
      ]),
    ).toBe(1004);
    expect(pairedOffsetUs([100, 33_400, 101, 99, 33_433, 100, 98])).toBe(100);
    expect(pairedOffsetUs([1, 2, 3])).toBeUndefined();
  });
});

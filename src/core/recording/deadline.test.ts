import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { elapsedUs, pauseClock, resumeClock, startClock, takeTimeUs } from './clock';
import { ASLEEP_US, deadlineAt, msLeft, wakefulClock } from './deadline';

describe('a deadline', () => {
  it('comes after the time that was left when it was set, whatever the wall clock is set to meanwhile', () => {
    fc.assert(
      fc.property(
        fc.nat(1e9),
        fc.nat(1e7),
        fc.nat(1e7),
        fc.integer(),
        (wallMs, monotonicMs, leftMs, passed) => {
          const set = deadlineAt(wallMs + leftMs, { wallMs, monotonicMs });
          expect(msLeft(set, { monotonicMs: monotonicMs + passed })).toBe(leftMs - passed);
        },
      ),
    );
  });

  it('is that of the wall clock again when it is set again after a sleep', () => {
    const set = deadlineAt(60_000, { wallMs: 0, monotonicMs: 5000 });
    // An hour asleep, of which the monotonic clock knows nothing.
    const awake = { wallMs: 3_600_000, monotonicMs: 5100 };
    expect(msLeft(set, awake)).toBe(59_900);
    expect(msLeft(deadlineAt(set.atMs, awake), awake)).toBeLessThan(0);
  });
});

describe('a wakeful clock', () => {
  it('tells every sleep once, before anybody gets a time after it, and nothing else', () => {
    const step = fc.oneof(fc.nat(ASLEEP_US - 1), fc.integer({ min: ASLEEP_US, max: 3600e6 }));
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        let now = 0;
        const slept: [number, number][] = [];
        const look = wakefulClock(
          () => now,
          (...span) => slept.push(span),
        );
        for (const by of steps) {
          const before = slept.length;
          now += by;
          expect(look()).toBe(now);
          expect(slept.slice(before)).toEqual(by >= ASLEEP_US ? [[now - by, now]] : []);
        }
      }),
    );
  });

  it('keeps a sleep out of a take: its clock goes on where it stood, and nothing from within the sleep has a place', () => {
    const hour = 3600e6;
    let clock = startClock(0);
    let now = 2e6;
    const look = wakefulClock(
      () => now,
      (fromUs, toUs) => {
        clock = resumeClock(pauseClock(clock, fromUs), toUs);
      },
    );
    now += hour;
    const awake = look();
    expect(elapsedUs(clock, awake)).toBe(2e6);
    expect(elapsedUs(clock, awake + 500_000)).toBe(2_500_000);
    expect(takeTimeUs(clock, 2e6 + hour / 2)).toBeNull();
    expect(takeTimeUs(clock, 2e6 + hour + 250_000)).toBe(2_250_000);
  });
});

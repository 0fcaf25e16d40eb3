import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrive, decide, finishPacing, type Pacing, startPacing, unaccounted } from './pacing';

const THIRTY = { num: 30, den: 1 };

/** Feeds arrivals (µs) to a machine that takes `busyUs` for each picture; looks again every millisecond like the worker. */
function film(arrivals: number[], busyUs: number, endUs: number, rate = THIRTY) {
  let pacing: Pacing = startPacing(rate);
  const times: number[] = [];
  const shown: number[] = [];
  let freeAt = 0;
  let newest = -1;
  let next = 0;
  for (let now = 0; now <= endUs; now += 1000) {
    while (next < arrivals.length && (arrivals[next] ?? 0) <= now) {
      newest = arrivals[next++] ?? 0;
      pacing = arrive(pacing, newest);
    }
    const step = decide(pacing, now, now >= freeAt);
    pacing = step.pacing;
    if (step.act.act !== 'wait') {
      times.push(step.act.tUs);
      shown.push(newest);
      freeAt = now + busyUs;
    }
  }
  const end = finishPacing(pacing, endUs);
  for (const act of end.acts) if (act.act !== 'wait') times.push(act.tUs);
  return { pacing: end.pacing, times, shown, newest };
}

const every = (stepUs: number, count: number) => Array.from({ length: count }, (_, i) => i * stepUs);

describe('pacing', () => {
  it('loses nothing of a source of exactly the asked rate that jitters by a third of a frame', () => {
    const arrivals = every(33_333, 300).map((t, i) => Math.max(0, t + ((i * 7919) % 22_000) - 11_000));
    const { pacing } = film(arrivals, 8_000, 10_000_000);
    expect(pacing.counts).toMatchObject({ arrived: 300, encoded: 300, skipped: 0, dropped: 0, repeated: 0 });
  });

  it('takes half of a source of twice the asked rate, and calls the rest skipped, not dropped', () => {
    const { pacing } = film(every(16_667, 600), 5_000, 10_000_000);
    expect(pacing.counts.dropped).toBe(0);
    expect(Math.abs(pacing.counts.encoded - 300)).toBeLessThanOrEqual(1);
  });

  it('keeps the asked rate on average when it does not divide the source’s', () => {
    const { pacing } = film(every(20_000, 500), 5_000, 10_000_000);
    expect(Math.abs(pacing.counts.encoded - 300)).toBeLessThanOrEqual(2);
  });

  it('shows the newest picture before a still phase, even when the encoder was behind', () => {
    // Ten pictures in a burst, then nothing: the encoder manages one in 80 ms.
    const { shown, newest, pacing } = film(every(16_000, 10), 80_000, 3_000_000);
    expect(shown.at(-1)).toBe(newest);
    expect(pacing.counts.dropped + pacing.counts.skipped).toBeGreaterThan(0);
  });

  it('repeats a still picture at least every 1.2 s and ends with the take', () => {
    const { times, pacing } = film([0], 5_000, 7_000_000);
    const gaps = times.slice(1).map((t, i) => t - (times[i] ?? 0));
    expect(Math.max(...gaps)).toBeLessThanOrEqual(1_250_000);
    expect(times.at(-1)).toBe(6_999_000);
    expect(pacing.counts).toMatchObject({ arrived: 1, encoded: 1 });
  });

  it('accounts for every picture and never turns back, whatever comes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 120_000 }), { maxLength: 200 }),
        fc.integer({ min: 1000, max: 90_000 }),
        fc.constantFrom(THIRTY, { num: 30_000, den: 1001 }, { num: 12, den: 1 }),
        (gaps, busyUs, rate) => {
          let t = 0;
          const arrivals = gaps.map((gap) => (t += gap));
          const { pacing, times } = film(arrivals, busyUs, t + 500_000, rate);
          expect(unaccounted(pacing.counts)).toBe(0);
          expect(times.length).toBe(pacing.counts.encoded + pacing.counts.repeated);
          for (let i = 1; i < times.length; i++)
            expect(times[i]).toBeGreaterThanOrEqual((times[i - 1] ?? 0) + 1000);
        },
      ),
      { numRuns: 60 },
    );
  });
});

import fc from 'fast-check';
import { expect, it } from 'vitest';
import { pauseClock, resumeClock } from '@/core/recording/clock';
import { newRecording } from './recording';
import { openPlacing } from './sound-placing';

const RATE = 48_000;
const files = { folder: {} as never, log: () => undefined, onFull: () => undefined };

/** What was written, sample after sample, and where each piece said that it belongs. */
function placing(hasSegments = false) {
  const samples: number[] = [];
  const pieces: { atUs: number; after: number }[] = [];
  const clock = { now: 0 };
  const recording = newRecording(0, files);
  if (hasSegments) recording.nextIndex('voice');
  const line = openPlacing(
    'voice',
    {
      put: (_recording, [plane], atUs) => {
        pieces.push({ atUs, after: samples.length });
        samples.push(...(plane ?? []));
      },
      bytes: () => 0,
      unwritten: () => 0,
      close: async () => undefined,
    },
    () => clock.now,
  );
  const give = (atUs: number, value: number, frames = 480) =>
    line.place(
      { planes: [new Float32Array(frames).fill(value)], sampleRate: RATE, monotonicUs: atUs },
      (own) => own,
    );
  return { line, give, samples, pieces, clock, recording };
}

it('the samples count the take’s time, whatever arrives when; each piece gets its time on the take', () => {
  const gap = fc.record({
    waitMs: fc.integer({ min: 0, max: 3000 }),
    frames: fc.integer({ min: 1, max: 4800 }),
  });
  fc.assert(
    fc.property(fc.array(gap, { minLength: 1, maxLength: 25 }), (gaps) => {
      const { line, give, samples, pieces, recording } = placing();
      line.start(recording);
      let now = 0;
      for (const { waitMs, frames } of gaps) {
        now += waitMs * 1000;
        give(now, 0.5, frames);
        now += (frames * 1e6) / RATE;
      }
      const endUs = now + 500_000;
      line.endAt(endUs);
      line.finish();
      const originUs = pieces[0]?.atUs ?? 0;
      expect(Math.abs(samples.length - ((endUs - originUs) * RATE) / 1e6)).toBeLessThanOrEqual(1);
      for (const { atUs, after } of pieces)
        expect(Math.abs(atUs - originUs - (after * 1e6) / RATE)).toBeLessThan(1);
    }),
    { numRuns: 40 },
  );
});

it('a pause takes nothing and leaves nothing; sound goes on where it belongs', () => {
  const { line, give, samples, recording } = placing();
  line.start(recording);
  for (let n = 0; n < 100; n++) give(n * 10_000, 1);
  recording.clock = pauseClock(recording.clock, 1_000_000);
  for (let n = 100; n < 200; n++) give(n * 10_000, 2);
  recording.clock = resumeClock(recording.clock, 2_000_000);
  for (let n = 200; n < 300; n++) give(n * 10_000, 3);
  line.endAt(2_000_000);
  line.finish();
  expect(samples.length).toBe(2 * RATE);
  expect(samples.indexOf(2)).toBe(-1);
  expect(samples.indexOf(3)).toBe(RATE);
});

it('one that comes late begins there; one of which there is a part already does so at any time', () => {
  const late = placing();
  late.line.start(late.recording);
  late.give(5_000_000, 1);
  expect(late.pieces).toEqual([{ atUs: 5_000_000, after: 0 }]);
  const again = placing(true);
  again.line.start(again.recording);
  again.give(300_000, 1);
  expect(again.pieces[0]?.atUs).toBe(300_000);
  const soon = placing();
  soon.line.start(soon.recording);
  soon.give(300_000, 1);
  // A little late is silence, so that the track is as long as the others.
  expect(soon.pieces[0]?.atUs).toBe(0);
  expect(soon.samples.indexOf(1)).toBe(0.3 * RATE);
});

it('fills up what a source that has fallen silent leaves open, and writes nothing after it was abandoned', () => {
  const { line, give, samples, clock, recording } = placing();
  line.start(recording);
  give(0, 1);
  clock.now = 5_000_000;
  line.keepUp();
  expect(samples.length).toBe(3.5 * RATE);
  line.abandon();
  line.finish();
  line.keepUp();
  give(6_000_000, 1);
  expect(samples.length).toBe(3.5 * RATE);
});

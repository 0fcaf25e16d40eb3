import fc from 'fast-check';
import { expect, it } from 'vitest';
import { pauseClock, resumeClock } from '@/core/recording/clock';
import { openFrameAccount } from './frame-account';
import { openPictureLine } from './picture-line';
import { newRecording } from './recording';

const RATE = { num: 30, den: 1 };
const FRAME_US = 33_333;
const files = { folder: {} as never, log: () => undefined, onFull: () => undefined };

/** A line with a clock that is moved by hand. @param limit seconds after which the film ends */
function lineOf(limit: number | null = null) {
  const clock = { now: 0 };
  const account = openFrameAccount(false);
  const line = openPictureLine(RATE, account, () => clock.now);
  const recording = newRecording(0, files, { num: 1, den: 1 }, limit);
  const arrive = (atUs: number) => {
    clock.now = atUs;
    return line.arrive({ timestampUs: atUs, monotonicUs: atUs });
  };
  return { line, account, recording, clock, arrive };
}

it('takes nothing before the take, in a pause and after the film’s end, and begins with what is at hand', () => {
  const { line, recording, clock, arrive } = lineOf(10);
  arrive(-500_000);
  expect(line.counts().arrived).toBe(0);
  line.start(recording, { timestampUs: -500_000 });
  expect(line.next(true)).toEqual({ act: 'encode', tUs: 0 });
  // Made before the first instant, arrived after it.
  line.arrive({ timestampUs: -10, monotonicUs: -10 });
  expect(line.counts().arrived).toBe(2);
  clock.now = 1_000_000;
  recording.clock = pauseClock(recording.clock, clock.now);
  expect(line.isRunning()).toBe(false);
  arrive(2_000_000);
  expect(line.counts().arrived).toBe(2);
  recording.clock = resumeClock(recording.clock, 3_000_000);
  clock.now = 3_000_000;
  line.resume({ timestampUs: 2_000_000 });
  expect(line.counts().arrived).toBe(3);
  expect(line.startUs()).toBe(1_000_000);
  expect(arrive(11_999_999)).toBe(true);
  expect(arrive(12_000_000)).toBe(false);
});

it('says in which seconds pictures were dropped, and accounts for those that a dead encoder had inside it', () => {
  const { line, account, recording, arrive } = lineOf();
  line.start(recording, null);
  for (let n = 0; n < 90; n++) {
    arrive(n * FRAME_US);
    // Busy for the whole of the second second.
    line.next(n < 30 || n >= 60);
  }
  const before = line.counts();
  expect(before.dropped).toBeGreaterThan(25);
  expect(account.ledger().droppedAtS).toEqual([1]);
  line.lost({ encoded: 2, repeated: 1 });
  const after = line.counts();
  expect(after.dropped - before.dropped).toBe(2);
  expect(before.encoded - after.encoded).toBe(2);
  expect(after.arrived).toBe(after.encoded + after.skipped + after.dropped + (line.isWaiting() ? 1 : 0));
});

it('accounts for every picture whatever arrives, fails and ends, and never turns back in time', () => {
  const step = fc.record({
    waitUs: fc.nat(90_000),
    free: fc.boolean(),
    fails: fc.integer({ min: 0, max: 30 }),
  });
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 200 }), fc.boolean(), (steps, givesUp) => {
      const { line, recording, clock, arrive } = lineOf();
      line.start(recording, null);
      const times: number[] = [];
      const note = (act: { act: string; tUs?: number }) => act.tUs !== undefined && times.push(act.tUs);
      let now = 0;
      for (const { waitUs, free, fails } of steps) {
        now += waitUs;
        arrive(now);
        note(line.next(free));
        if (fails === 0 && line.counts().encoded > 0) {
          line.lost({ encoded: 1, repeated: 0 });
          note(line.again());
        }
      }
      if (givesUp) line.end();
      clock.now = now + 100_000;
      for (const act of line.finish(clock.now)) note(act);
      const { arrived, encoded, skipped, dropped } = line.counts();
      expect(arrived).toBe(steps.length);
      expect(encoded + skipped + dropped).toBe(arrived);
      for (let i = 1; i < times.length; i++) expect(times[i]).toBeGreaterThan(times[i - 1] ?? 0);
      // What comes after the end belongs to nothing.
      arrive(clock.now + 1);
      expect(line.counts().arrived).toBe(steps.length);
      expect(line.finish(clock.now)).toEqual([]);
    }),
  );
});

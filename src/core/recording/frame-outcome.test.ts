import fc from 'fast-check';
import { expect, test } from 'vitest';
import { frameOutcome, isSeenLoss, lostFrames } from './frame-outcome';
import { addLedgers } from './ledger';
import type { FrameLedger } from './take';

const ledger = (change: Partial<FrameLedger>): FrameLedger => ({
  askedFps: 60,
  arrived: 600,
  encoded: 600,
  repeated: 0,
  skipped: 0,
  dropped: 0,
  lostBefore: null,
  encodeP50Ms: 8,
  encodeP95Ms: 12,
  ...change,
});

test('one sentence says whether the frame rate was kept, how much is missing and where', () => {
  const said = (change: Partial<FrameLedger>) => frameOutcome(ledger(change)).sentence;
  expect(said({})).toBe('Recorded at the target of 60 fps. No dropped frames.');
  expect(said({ askedFps: 29.97, lostBefore: 0 })).toBe(
    'Recorded at the target of 29.97 fps. No dropped frames.',
  );
  expect(said({ dropped: 2, droppedAtS: [4] })).toBe(
    'Recorded at the target of 60 fps. 2 of 600 frames dropped.',
  );
  expect(said({ arrived: 119, dropped: 24, droppedAtS: [3] })).toBe(
    'Below the target of 60 fps: 20 % of the frames dropped (24 of 119), at 0:03.',
  );
  expect(said({ dropped: 60, droppedAtS: [3, 4, 6] })).toContain(
    '10 % of the frames dropped (60 of 600), from 0:03 to 0:07.',
  );
  expect(said({ dropped: 60, droppedAtS: [3, 61] })).toContain('in 2 places between 0:03 and 1:02.');
  // What the source made and nobody saw counts as much.
  expect(said({ lostBefore: 200 })).toContain('25 % of the frames dropped (200 of 800).');
  expect(said({ arrived: 5000, dropped: 30 })).toContain('0.6 % of the frames');
});

test('two parts of a track drop what both have dropped, where each has', () => {
  const seconds = fc.uniqueArray(fc.integer({ min: 0, max: 900 }), { maxLength: 20 });
  fc.assert(
    fc.property(seconds, seconds, (a, b) => {
      const part = (at: number[]) => ledger({ dropped: at.length, droppedAtS: at.toSorted((x, y) => x - y) });
      const both = addLedgers(part(a), part(b));
      expect(both.droppedAtS).toEqual([...new Set([...a, ...b])].sort((x, y) => x - y));
      expect(lostFrames(both).lost).toBe(a.length + b.length);
      const { lost, made } = lostFrames(both);
      expect(isSeenLoss(lost, made)).toBe(!frameOutcome(both).asAsked);
    }),
  );
});

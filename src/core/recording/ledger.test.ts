import fc from 'fast-check';
import { expect, test } from 'vitest';
import { ledgersByTrack } from './ledger';
import type { FrameLedger } from './take';

const count = fc.nat(100_000);
const ledger: fc.Arbitrary<FrameLedger> = fc.record({
  askedFps: fc.constantFrom(24, 30, 60),
  arrived: count,
  encoded: count,
  repeated: count,
  skipped: count,
  dropped: count,
  droppedAtS: fc.uniqueArray(fc.nat(600), { maxLength: 6 }).map((s) => s.sort((a, b) => a - b)),
  lostBefore: fc.option(count),
  encodeP50Ms: fc.float({ min: 0, max: 40, noNaN: true }),
  encodeP95Ms: fc.float({ min: 40, max: 400, noNaN: true }),
});
const part = fc.record({ role: fc.constantFrom('screen' as const, 'camera' as const), ledger });

test('every frame of every source is in the account of its track, and in no other', () => {
  fc.assert(
    fc.property(fc.array(part, { maxLength: 6 }), (parts) => {
      const sums = ledgersByTrack(parts);
      for (const role of ['screen', 'camera'] as const) {
        const own = parts.filter((one) => one.role === role).map((one) => one.ledger);
        if (own.length === 0) {
          expect(sums[role]).toBeUndefined();
          continue;
        }
        for (const key of ['arrived', 'encoded', 'repeated', 'skipped', 'dropped'] as const)
          expect(sums[role]?.[key]).toBe(own.reduce((sum, one) => sum + one[key], 0));
        // One source that does not know what was lost before it makes the sum unknown.
        const known = own.every(({ lostBefore }) => lostBefore !== null);
        expect(sums[role]?.lostBefore === null).toBe(!known);
        expect(sums[role]?.encodeP95Ms).toBe(Math.max(...own.map((one) => one.encodeP95Ms)));
        const seconds = sums[role]?.droppedAtS ?? [];
        expect(new Set(seconds)).toEqual(new Set(own.flatMap((one) => one.droppedAtS ?? [])));
        expect(seconds).toEqual([...seconds].sort((a, b) => a - b));
      }
    }),
  );
});

test('a track that was never attached has no account', () => {
  expect(ledgersByTrack([])).toEqual({});
});

import fc from 'fast-check';
import { expect, test } from 'vitest';
import { nextTurns, retryDelayMs, type WaitingTake } from './upload-turns';

const take = (key: string, day: number, rest: Partial<WaitingTake> = {}): WaitingTake => ({
  key,
  startedAt: `2030-01-${String(day).padStart(2, '0')}T10:00:00.000Z`,
  busy: false,
  retryAtMs: 0,
  turnAtMs: 0,
  ...rest,
});

test('the newest take begins at once, also while an older one is stuck in its turn', () => {
  expect(nextTurns([take('old', 1, { busy: true }), take('new', 2)], 0)).toEqual(['new']);
  expect(nextTurns([take('old', 1), take('new', 2, { busy: true })], 0)).toEqual(['old']);
  expect(nextTurns([take('old', 1), take('new', 2, { retryAtMs: 5 })], 0)).toEqual(['old']);
});

test('whatever fails, every take gets its turn again and again', () => {
  const stuck = fc.uniqueArray(fc.integer({ min: 1, max: 9 }), { maxLength: 8 });
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 9 }), stuck, (count, failing) => {
      let takes = Array.from({ length: count }, (_, i) => take(String(i + 1), i + 1));
      const turns = new Map<string, number>();
      const failures = new Map<string, number>();
      for (let now = 1; now < 400_000; now += 500) {
        for (const key of nextTurns(takes, now)) {
          turns.set(key, (turns.get(key) ?? 0) + 1);
          const failed = failing.includes(Number(key)) ? (failures.get(key) ?? 0) + 1 : 0;
          failures.set(key, failed);
          takes = takes.map((each) =>
            each.key === key ? { ...each, turnAtMs: now, retryAtMs: now + retryDelayMs(failed) } : each,
          );
        }
      }
      for (const { key } of takes) expect(turns.get(key) ?? 0).toBeGreaterThan(10);
    }),
    { numRuns: 40 },
  );
});

test('never more than two at once, and never two of the older ones', () => {
  const any = fc.array(
    fc.record({
      day: fc.integer({ min: 1, max: 28 }),
      busy: fc.boolean(),
      retryAtMs: fc.nat(10),
      turnAtMs: fc.nat(10),
    }),
  );
  fc.assert(
    fc.property(any, (raw) => {
      const takes = raw.map(({ day, ...rest }, i) => take(String(i), day, rest));
      const keys = nextTurns(takes, 5);
      expect(keys.length).toBeLessThanOrEqual(2);
      for (const key of keys) expect(takes.find((each) => each.key === key)?.busy).toBe(false);
      const newest = [...takes].sort((a, b) => b.startedAt.localeCompare(a.startedAt))[0]?.key;
      const older = takes.filter(({ busy, key }) => key !== newest && (busy || keys.includes(key)));
      if (keys.some((key) => key !== newest)) expect(older.length).toBe(1);
    }),
  );
});

test('waits grow to a quarter of a minute', () => {
  expect([0, 1, 2, 3, 10].map(retryDelayMs)).toEqual([0, 1000, 2000, 4000, 15_000]);
});

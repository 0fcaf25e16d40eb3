import { afterAll, beforeAll, expect, it } from 'vitest';
import { isNear, nextWallTime, scheduleRefusal, wallTimeText } from './schedule';

const before = process.env.TZ;
beforeAll(() => {
  process.env.TZ = 'Europe/Berlin';
});
afterAll(() => {
  process.env.TZ = before;
});

it('finds the next time that a clock shows, also over nights in which clocks are changed', () => {
  const at = (text: string) => Date.parse(text);
  expect(nextWallTime('14:30', at('2026-11-26T12:00:00Z'))).toBe(at('2026-11-26T13:30:00Z'));
  expect(nextWallTime('14:30:05', at('2026-11-26T13:30:05Z'))).toBe(at('2026-11-27T13:30:05Z'));
  // 23 and 25 hours until the same time of the next day.
  expect(nextWallTime('12:00', at('2026-03-28T11:00:00Z'))).toBe(at('2026-03-29T10:00:00Z'));
  expect(nextWallTime('12:00', at('2026-10-24T10:00:00Z'))).toBe(at('2026-10-25T11:00:00Z'));
  expect(wallTimeText(nextWallTime('09:05', at('2026-06-01T00:00:00Z')))).toBe('09:05');
  expect(() => nextWallTime('24:00', 0)).toThrow(RangeError);
  expect([isNear(12, 120), isNear(13, 120), isNear(30, 3600), isNear(31, 3600)]).toEqual([
    true,
    false,
    true,
    false,
  ]);
});

it('refuses a scheduled take that is past or runs into another one, and says which', () => {
  const now = new Date(2026, 4, 4, 12, 0, 0).getTime();
  const minutes = (n: number) => now + n * 60_000;
  const others = [
    { startAtMs: minutes(10), stopAtMs: minutes(20), state: 'waiting' as const },
    { startAtMs: minutes(30), stopAtMs: minutes(40), state: 'cancelled' as const },
  ];
  const refusal = (start: number, stop: number | null) =>
    scheduleRefusal(
      { startAtMs: minutes(start), stopAtMs: stop === null ? null : minutes(stop) },
      others,
      now,
    );
  expect(refusal(20, 30)).toBeNull();
  expect(refusal(30, 40)).toBeNull();
  expect(refusal(-1, 5)).toBe('11:59 is past.');
  expect(refusal(5, 11)).toBe('It would run into the take at 12:10.');
  expect(refusal(5, null)).toBe('It would run into the take at 12:10.');
  expect(refusal(15, 16)).toBe('It would run into the take at 12:10.');
});

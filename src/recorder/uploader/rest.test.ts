import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { openRest } from './rest';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

const ended = async (rest: Promise<void>): Promise<boolean> => {
  let is = false;
  void rest.then(() => {
    is = true;
  });
  await vi.advanceTimersByTimeAsync(0);
  return is;
};

it('ends after its time', async () => {
  const { rest } = openRest();
  const first = rest(500);
  await vi.advanceTimersByTimeAsync(499);
  expect(await ended(first)).toBe(false);
  await vi.advanceTimersByTimeAsync(1);
  expect(await ended(first)).toBe(true);
});

it('is cut short by a call, also by one that came before it, and by each call once', async () => {
  const { rest, wake } = openRest();
  const first = rest(500);
  wake();
  expect(await ended(first)).toBe(true);
  // Nobody rests: two calls that nothing was done about are one.
  wake();
  wake();
  expect(await ended(rest(500))).toBe(true);
  const third = rest(500);
  // The timer of the first would end now.
  await vi.advanceTimersByTimeAsync(499);
  expect(await ended(third)).toBe(false);
  await vi.advanceTimersByTimeAsync(1);
  expect(await ended(third)).toBe(true);
});

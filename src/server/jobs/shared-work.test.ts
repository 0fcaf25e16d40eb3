import { expect, it, vi } from 'vitest';
import { openSharedWork } from './shared-work';

const never = new AbortController().signal;

/** Work that ends when the test says so. */
function held(value: number) {
  let finish: () => void = () => undefined;
  const work = vi.fn(
    (signal: AbortSignal) =>
      new Promise<number>((done, fail) => {
        finish = () => done(value);
        signal.addEventListener('abort', () => fail(signal.reason));
      }),
  );
  return { work, finish: () => finish() };
}
const later = () => new Promise((done) => setTimeout(done, 2));

it('is done once for all who ask for the same, and kept', async () => {
  const shared = openSharedWork<number>(10);
  const one = held(7);
  const asked = [shared.ask('a', one.work, never), shared.ask('a', one.work, never)];
  await later();
  expect(shared.known('a')).toBeUndefined();
  one.finish();
  expect(await Promise.all(asked)).toEqual([7, 7]);
  expect(await shared.ask('a', one.work, never)).toBe(7);
  expect(one.work).toHaveBeenCalledTimes(1);
  expect(shared.known('a')).toBe(7);
});

it('ends what nobody waits for any more, so that the next begins at once', async () => {
  const shared = openSharedWork<number>(10);
  const [first, second] = [held(1), held(2)];
  const [one, other] = [new AbortController(), new AbortController()];
  const asked = Promise.allSettled([
    shared.ask('a', first.work, one.signal),
    shared.ask('a', first.work, other.signal),
  ]);
  const next = shared.ask('b', second.work, never);
  await later();
  one.abort();
  await later();
  // Somebody else still waits.
  expect(second.work).not.toHaveBeenCalled();
  other.abort();
  expect((await asked).map(({ status }) => status)).toEqual(['rejected', 'rejected']);
  await later();
  second.finish();
  expect(await next).toBe(2);
  expect(shared.known('a')).toBeUndefined();
});

it('is ended for all who asked, running or not begun, and done again for who asks next; what is there stays', async () => {
  const shared = openSharedWork<number>(10);
  const [one, waiting] = [held(3), held(4)];
  const asked = Promise.allSettled([
    shared.ask('a', one.work, never),
    shared.ask('a', one.work, never),
    shared.ask('b', waiting.work, never),
  ]);
  await later();
  for (const key of ['a', 'b', 'nobody asked']) shared.end(key);
  expect(await asked).toMatchObject([1, 2, 3].map(() => ({ reason: { name: 'AbortError' } })));
  expect(waiting.work).not.toHaveBeenCalled();
  const again = shared.ask('a', one.work, never);
  await later();
  one.finish();
  expect(await again).toBe(3);
  shared.end('a');
  expect(shared.known('a')).toBe(3);
});

it('does again what failed, and keeps no more than it may', async () => {
  const shared = openSharedWork<number>(2);
  await expect(shared.ask('a', () => Promise.reject(new Error('no encoder')), never)).rejects.toThrow(
    'no encoder',
  );
  for (const [i, key] of ['a', 'b', 'c'].entries())
    expect(await shared.ask(key, () => Promise.resolve(i), never)).toBe(i);
  expect(['a', 'b', 'c'].map(shared.known)).toEqual([undefined, 1, 2]);
});

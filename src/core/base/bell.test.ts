import { expect, it } from 'vitest';
import { newBell } from './bell';

it('wakes all who wait, once, and nobody who comes later', async () => {
  const bell = newBell();
  const woken: string[] = [];
  const wait = async (name: string) => {
    await bell.next();
    woken.push(name);
  };
  void wait('a');
  void wait('b');
  bell.ring();
  void wait('c');
  await Promise.resolve();
  expect(woken).toEqual(['a', 'b']);
  bell.ring();
  bell.ring();
  await Promise.resolve();
  expect(woken).toEqual(['a', 'b', 'c']);
});

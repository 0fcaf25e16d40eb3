import { expect, it } from 'vitest';
import { rested, shareOf, ticksOf } from './idle';

it('counts as spent what is neither idle nor waiting for a disk, time that a host took away too', () => {
  // user nice system idle iowait irq softirq steal guest guest_nice
  const stat = 'cpu  100 20 30 800 50 1 2 7 0 0\ncpu0 1 2 3 4 5 6 7 8 9 10\n';
  const before = ticksOf(stat);
  expect(before).toEqual({ spent: 160, stolen: 7, passed: 1010 });
  const after = ticksOf('cpu  130 20 40 850 60 1 2 7 0 0');
  expect([shareOf('spent', before, after), shareOf('stolen', before, after)]).toEqual([0.4, 0]);
});

it('looks until the machine rests, and no longer than it was told', async () => {
  const looks = [true, true, false, false];
  expect(await rested(60, async () => looks.shift() ?? true)).toBe(true);
  expect(looks).toEqual([false]);
  let looked = 0;
  expect(await rested(5, async () => ++looked > 0)).toBe(false);
  expect(looked).toBe(3);
});

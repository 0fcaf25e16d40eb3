import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type LoadReading, loadBetween, slowdown, slowdownSentence } from './load';

const reading = (atMs: number, cpuBusyMs: number, processes: LoadReading['processes'] = []): LoadReading => ({
  ...{ atMs, sameMachine: true, cores: 2, cpuBusyMs, cpuTotalMs: 2 * atMs },
  ...{ memory: { usedBytes: 3, totalBytes: 8 }, diskBusyMs: atMs / 4, processes },
});

it('tells the share of all cores, and what used them most, by name', () => {
  const before = reading(10_000, 5000, [
    { pid: 1, name: 'planner', cpuMs: 900 },
    { pid: 2, name: 'chromium', cpuMs: 400 },
  ]);
  const after = reading(12_000, 8000, [
    { pid: 1, name: 'planner', cpuMs: 2100 },
    { pid: 2, name: 'chromium', cpuMs: 800 },
    // Started in between, under a number of before.
    { pid: 3, name: 'chromium', cpuMs: 600 },
    { pid: 4, name: 'idle', cpuMs: 20 },
  ]);
  expect(loadBetween(before, after)).toEqual({
    ...{ cpu: 0.75, memory: 3 / 8, disk: 0.25 },
    programs: [
      { name: 'planner', cores: 0.6 },
      { name: 'chromium', cores: 0.5 },
    ],
  });
});

it('says nothing of a machine that the browser does not run on, or of no time', () => {
  expect(loadBetween({ ...reading(1, 0), sameMachine: false }, reading(2, 0))).toBeNull();
  expect(loadBetween(reading(2, 0), reading(2, 0))).toBeNull();
});

it('gives shares between nothing and all, whatever the counters do', () => {
  const Ms = fc.double({ min: 0, max: 1e9, noNaN: true });
  fc.assert(
    fc.property(Ms, Ms, Ms, Ms, (from, to, a, b) => {
      const load = loadBetween(reading(from, a), reading(to, b));
      if (!load) return;
      for (const share of [load.cpu, load.memory, load.disk ?? 0]) {
        expect(share).toBeGreaterThanOrEqual(0);
        expect(share).toBeLessThanOrEqual(1);
      }
    }),
  );
});

it('says how much of the machine recording takes from the program, where it is felt', () => {
  expect(slowdown({ beforeMs: 6, duringMs: 10 })).toBeCloseTo(0.4, 9);
  expect(slowdown({ beforeMs: 6, duringMs: 5 })).toBe(0);
  expect(slowdownSentence({ beforeMs: 6, duringMs: 10 })).toBe(
    'Your program has 40 % less of the machine while you record.',
  );
  expect(slowdownSentence({ beforeMs: 6, duringMs: 6.5 })).toBeNull();
  expect(slowdownSentence(null)).toBeNull();
});

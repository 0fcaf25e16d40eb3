import { expect, it } from 'vitest';
import { availableBytes, diskBusyMs, processTicks } from './proc-text';
import { readLoad } from './read-load';
import { isSameMachine } from './same-machine';

it('reads a process by its last parenthesis, since a name may hold any', () => {
  const fields = (parent: number) => `S ${parent} 1 1 0 -1 4194560 0 0 0 0 120 34 0 0 20 0 1 0 100`;
  expect(processTicks(`815 (seed (v2) tool) ${fields(1)}`)).toEqual({
    pid: 815,
    name: 'seed (v2) tool',
    ticks: 154,
  });
  // A thread of the kernel.
  expect(processTicks(`17 (kworker/0:1) ${fields(2)}`)).toBeNull();
  expect(processTicks('no such line')).toBeNull();
});

it('takes the busiest disk, and leaves out what is none', () => {
  const line = (name: string, ms: number) => `   8  0 ${name} 1 2 3 4 5 6 7 8 9 ${ms} 11 12`;
  expect(diskBusyMs([line('loop0', 9000), line('sda', 420), line('nvme0n1', 77), ''].join('\n'))).toBe(420);
  expect(diskBusyMs('')).toBe(0);
});

it('reads the memory that programs could still use', () => {
  expect(availableBytes('MemTotal:       100 kB\nMemAvailable:    64 kB\n')).toBe(65_536);
  expect(availableBytes('MemTotal: 100 kB')).toBeUndefined();
});

it('counts this machine, and its processes only for whoever is on it', async () => {
  const own = await readLoad(true);
  expect(own.cpuBusyMs).toBeLessThanOrEqual(own.cpuTotalMs);
  expect(own.memory.usedBytes).toBeLessThanOrEqual(own.memory.totalBytes);
  expect(own.processes.some(({ pid }) => pid === process.pid)).toBe(true);
  expect((await readLoad(false)).processes).toEqual([]);
});

it('knows its own addresses', () => {
  const from = (address: string) => isSameMachine(new Headers({ 'x-forwarded-for': address }));
  expect(from('127.0.0.1')).toBe(true);
  expect(from('::ffff:127.0.0.1')).toBe(true);
  expect(from('203.0.113.7')).toBe(false);
  // The first of a list is who asked.
  expect(from('203.0.113.7, 127.0.0.1')).toBe(false);
  expect(isSameMachine(new Headers())).toBe(false);
});

import { readdir, readFile } from 'node:fs/promises';
import { cpus, freemem, totalmem } from 'node:os';
import type { LoadReading } from '@/core/rehearsal/load';
import { availableBytes, diskBusyMs, processTicks } from './proc-text';

/** Linux counts a process's time in hundredths of a second (USER_HZ). */
const TICK_MS = 10;

const text = (path: string): Promise<string | null> => readFile(path, 'utf8').catch(() => null);

/** What this machine counts: everywhere its processors and memory, on Linux its disks and processes as well. */
export async function readLoad(sameMachine: boolean): Promise<LoadReading> {
  const cores = cpus();
  const busy = cores.reduce((sum, { times }) => sum + times.user + times.nice + times.sys + times.irq, 0);
  const idle = cores.reduce((sum, { times }) => sum + times.idle, 0);
  const [meminfo, diskstats] = await Promise.all([text('/proc/meminfo'), text('/proc/diskstats')]);
  const free = (meminfo && availableBytes(meminfo)) || freemem();
  return {
    atMs: performance.timeOrigin + performance.now(),
    sameMachine,
    cores: Math.max(1, cores.length),
    cpuBusyMs: busy,
    cpuTotalMs: busy + idle,
    memory: { usedBytes: Math.max(0, totalmem() - free), totalBytes: totalmem() },
    diskBusyMs: diskstats === null ? null : diskBusyMs(diskstats),
    processes: sameMachine ? await processes() : [],
  };
}

/** Processes that can be seen; one that ends meanwhile is left out. */
async function processes(): Promise<LoadReading['processes']> {
  const names = await readdir('/proc').catch(() => [] as string[]);
  const pids = names.filter((name) => /^\d+$/.test(name));
  const stats = await Promise.all(pids.map((pid) => text(`/proc/${pid}/stat`)));
  return stats.flatMap((stat) => {
    const found = stat && processTicks(stat);
    return found ? [{ pid: found.pid, name: found.name, cpuMs: found.ticks * TICK_MS }] : [];
  });
}

/** What Linux writes into its files of figures (proc(5)). */

/** Bytes that programs could still use, from `/proc/meminfo`; undefined where they are not listed. */
export function availableBytes(meminfo: string): number | undefined {
  const kib = /^MemAvailable:\s+(\d+) kB/m.exec(meminfo)?.[1];
  return kib === undefined ? undefined : Number(kib) * 1024;
}

/** Time in which the busiest disk had work to do, ms: the 13th field of its line in `/proc/diskstats`. */
export function diskBusyMs(diskstats: string): number {
  const busy = diskstats
    .split('\n')
    .map((line) => line.trim().split(/\s+/))
    .filter(([, , name]) => name !== undefined && !/^(loop|ram|zram)/.test(name))
    .map((fields) => Number(fields[12] ?? 0));
  return Math.max(0, ...busy.filter(Number.isFinite));
}

/** Every thread of the kernel is a child of this process (kthreadd). */
const KERNEL_PARENT = '2';

/**
 * Process, name and processor time from `/proc/PID/stat`: user and system time are its 14th and 15th field. The name, in parentheses, may
 * hold spaces and parentheses itself.
 * @returns null for a thread of the kernel, and for what is no such line
 */
export function processTicks(stat: string): { pid: number; name: string; ticks: number } | null {
  const [open, close] = [stat.indexOf('('), stat.lastIndexOf(')')];
  if (open < 0 || close < open) return null;
  const after = stat.slice(close + 2).split(' ');
  // What the kernel does for itself is nobody's program.
  if (after[1] === KERNEL_PARENT) return null;
  const ticks = Number(after[11]) + Number(after[12]);
  const pid = Number(stat.slice(0, open));
  return Number.isFinite(ticks) && Number.isFinite(pid)
    ? { pid, name: stat.slice(open + 1, close), ticks }
    : null;
}

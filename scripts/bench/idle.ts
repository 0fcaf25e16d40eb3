import { readFileSync } from 'node:fs';
import { setTimeout as delay } from 'node:timers/promises';

/** Processor time of the whole machine in ticks (the first line of /proc/stat). */
export type Ticks = {
  /** Neither idle nor waiting for a disk. */
  spent: number;
  /** Of it, what the host of a virtual machine gave to others. */
  stolen: number;
  passed: number;
};

/** @param stat what /proc/stat says: user, nice, system, idle, iowait and so on, of all processors in its first line (proc_stat(5)) */
export function ticksOf(stat: string): Ticks {
  const fields = (stat.split('\n')[0] ?? '').split(/\s+/).slice(1).map(Number);
  const passed = fields.reduce((sum, v) => sum + v, 0);
  return { spent: passed - (fields[3] ?? 0) - (fields[4] ?? 0), stolen: fields[7] ?? 0, passed };
}

export const ticksNow = (): Ticks => ticksOf(readFileSync('/proc/stat', 'utf8'));

/** Share of the time between two looks, 0…1. */
export const shareOf = (what: 'spent' | 'stolen', before: Ticks, after: Ticks): number =>
  (after[what] - before[what]) / (after.passed - before.passed);

/** More than a fifth of its time: something else runs. */
const BUSY_SHARE = 0.2;
const LOOK_MS = 2000;

/** Whether the machine is at work, over two seconds. */
export async function isBusy(): Promise<boolean> {
  const before = ticksNow();
  await delay(LOOK_MS);
  const after = ticksNow();
  return shareOf('spent', before, after) > BUSY_SHARE;
}

/**
 * Waits until the machine rests, so that what a bench prepared (a take that is finished, pictures of steps) is not measured with it.
 * @returns whether it rested within `mostS` seconds
 */
export async function rested(mostS: number, look: () => Promise<boolean> = isBusy): Promise<boolean> {
  const looks = Math.ceil((mostS * 1000) / LOOK_MS);
  for (let n = 0; n < looks; n++) if (!(await look())) return true;
  return false;
}

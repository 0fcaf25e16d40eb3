import { z } from 'zod';

/** What the system counts since it started, read at one instant. */
export const LoadReading = z.object({
  atMs: z.number(),
  /** Whether the browser that asked runs on this machine; otherwise the figures say nothing about recording. */
  sameMachine: z.boolean(),
  cores: z.int().min(1),
  /** Of all cores together. */
  cpuBusyMs: z.number().min(0),
  cpuTotalMs: z.number().min(0),
  memory: z.object({ usedBytes: z.number().min(0), totalBytes: z.number().min(0) }),
  /** Time in which a disk was busy; null where the system does not say. */
  diskBusyMs: z.number().min(0).nullable(),
  /** Processor time of each process; empty where the system does not say. */
  processes: z.array(z.object({ pid: z.int(), name: z.string(), cpuMs: z.number().min(0) })),
});
export type LoadReading = z.infer<typeof LoadReading>;

/** How busy the machine was between two readings. */
export const Load = z.object({
  /** Share of all cores. */
  cpu: z.number().min(0).max(1),
  /** Share of the memory at the end. */
  memory: z.number().min(0).max(1),
  disk: z.number().min(0).max(1).nullable(),
  /** What used the processor most, in cores, the hungriest first. */
  programs: z.array(z.object({ name: z.string().max(100), cores: z.number().min(0) })).max(5),
});
export type Load = z.infer<typeof Load>;

const LEAST_CORES = 0.05;
const share = (part: number, whole: number) => (whole > 0 ? Math.min(1, Math.max(0, part / whole)) : 0);

/** @returns null where the browser runs elsewhere, or no time has passed */
export function loadBetween(before: LoadReading, after: LoadReading): Load | null {
  const elapsedMs = after.atMs - before.atMs;
  if (!before.sameMachine || !after.sameMachine || elapsedMs <= 0) return null;
  const known = new Map(before.processes.map(({ pid, name, cpuMs }) => [`${pid} ${name}`, cpuMs]));
  const cores = new Map<string, number>();
  for (const { pid, name, cpuMs } of after.processes) {
    // One that started in between has used all it has since.
    const used = (cpuMs - (known.get(`${pid} ${name}`) ?? 0)) / elapsedMs;
    cores.set(name, (cores.get(name) ?? 0) + Math.max(0, used));
  }
  return {
    cpu: share(after.cpuBusyMs - before.cpuBusyMs, after.cpuTotalMs - before.cpuTotalMs),
    memory: share(after.memory.usedBytes, after.memory.totalBytes),
    disk:
      before.diskBusyMs === null || after.diskBusyMs === null
        ? null
        : share(after.diskBusyMs - before.diskBusyMs, elapsedMs),
    programs: [...cores]
      .map(([name, used]) => ({ name: name.slice(0, 100), cores: used }))
      .filter((program) => program.cores >= LEAST_CORES)
      .sort((a, b) => b.cores - a.cores)
      .slice(0, 5),
  };
}

/** A fixed task of the page, timed before and while it is recorded, median in ms. */
export const Yardstick = z.object({ beforeMs: z.number().positive(), duringMs: z.number().positive() });
export type Yardstick = z.infer<typeof Yardstick>;

/** What recording takes from the program that is shown: the share of its speed that is gone, 0 for none. */
export const slowdown = ({ beforeMs, duringMs }: Yardstick): number => Math.max(0, 1 - beforeMs / duringMs);

/** Less than this is what a machine varies by anyway. */
const FELT = 0.15;

/** Whether somebody who uses the program that is shown would feel it. */
export const isSlowed = (yardstick: Yardstick | null): yardstick is Yardstick =>
  yardstick !== null && slowdown(yardstick) >= FELT;

/** "Your program has 40 % less of the machine while you record." Null where nobody would feel it. */
export const slowdownSentence = (yardstick: Yardstick | null): string | null =>
  isSlowed(yardstick)
    ? `Your program has ${Math.round(slowdown(yardstick) * 100)} % less of the machine while you record.`
    : null;

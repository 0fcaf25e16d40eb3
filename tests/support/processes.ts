import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from 'pg';

export const dataDir = () => process.env.DATA_DIR ?? '.data';

/** Sends a signal to one of the studio's processes; its supervisor starts again what it kills. */
export function signal(name: 'web' | 'worker' | 'database', signal: NodeJS.Signals): void {
  const pid = Number(readFileSync(join(dataDir(), 'run', `${name}.pid`), 'utf8').split(' ')[0]);
  process.kill(pid, signal);
}

/** Kills a browser, as a power cut would. */
export const killBrowser = (profile: string): void => signalBrowser(profile, 'SIGKILL');

/** Sends a signal to a browser and to every process that it has begun. */
export function signalBrowser(profile: string, signal: NodeJS.Signals): void {
  for (const pid of familyOf(profile)) {
    try {
      process.kill(pid, signal);
    } catch {
      // It went by itself meanwhile.
    }
  }
}

/** Memory of a browser and all its processes, MB; what they share is counted once (proportional set size). */
export function memoryMb(profile: string): number {
  let kilobytes = 0;
  for (const pid of familyOf(profile)) {
    try {
      kilobytes += Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1] ?? 0);
    } catch {
      // It went meanwhile.
    }
  }
  return kilobytes / 1024;
}

/** Processes that name a browser's profile, and all that descend from them. */
function familyOf(profile: string): Set<number> {
  const parents = new Map<number, number>();
  const family = new Set<number>();
  for (const name of readdirSync('/proc').filter((each) => /^\d+$/.test(each))) {
    try {
      const stat = readFileSync(`/proc/${name}/stat`, 'utf8');
      // "pid (name) state parent …": the name may hold anything.
      parents.set(Number(name), Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]));
      if (readFileSync(`/proc/${name}/cmdline`, 'utf8').includes(profile)) family.add(Number(name));
    } catch {
      // It went meanwhile.
    }
  }
  for (let before = -1; before !== family.size; ) {
    before = family.size;
    for (const [pid, parent] of parents) if (family.has(parent)) family.add(pid);
  }
  return family;
}

/** Waits until the studio answers and says that all of it works. */
export async function healthy(): Promise<void> {
  for (;;) {
    const ok = await fetch(`${process.env.BASE_URL}/api/health`).then(
      async (response) =>
        Object.values((await response.json()).checks).every((check) => (check as { ok: boolean }).ok),
      () => false,
    );
    if (ok) return;
    await new Promise((done) => setTimeout(done, 200));
  }
}

/** Rows of the studio's database. A database that is starting again is waited for. */
export async function rows<T>(sql: string, values: unknown[] = []): Promise<T[]> {
  for (let attempt = 0; ; attempt++) {
    const client = new Client({ connectionString: process.env.DATABASE_URL });
    client.on('error', () => undefined);
    try {
      await client.connect();
      return (await client.query(sql, values)).rows;
    } catch (error) {
      if (attempt > 50) throw error;
      await new Promise((done) => setTimeout(done, 200));
    } finally {
      await client.end().catch(() => undefined);
    }
  }
}

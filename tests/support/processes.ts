import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from 'pg';

export const dataDir = () => process.env.DATA_DIR ?? '.data';

/** Sends a signal to one of the studio's processes; its supervisor starts again what it kills. */
export function signal(name: 'web' | 'worker' | 'database', signal: NodeJS.Signals): void {
  const pid = Number(readFileSync(join(dataDir(), 'run', `${name}.pid`), 'utf8').split(' ')[0]);
  process.kill(pid, signal);
}

/** Kills (-9) every process that was started with this browser profile. */
export function killBrowser(profile: string): void {
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      if (readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(profile))
        process.kill(Number(pid), 'SIGKILL');
    } catch {
      // It went by itself meanwhile.
    }
  }
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

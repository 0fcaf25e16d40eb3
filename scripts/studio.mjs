// The studio's own processes on a running database: tables, demo, web, worker, share pages. Uses nothing but Node.
import { freePort } from './cluster.mjs';
import { program } from './programs.mjs';
import { Plain, run, step } from './steps.mjs';

/** @param {number} port @param {number} seconds */
async function answers(port, seconds) {
  const until = Date.now() + seconds * 1000;
  for (;;) {
    try {
      const response = await fetch(`http://127.0.0.1:${port}/api/health`);
      if (response.ok) return;
    } catch {
      // Not listening yet.
    }
    if (Date.now() > until)
      throw new Plain(
        `The studio did not answer within ${seconds} s. Its log is in logs/web.log of the data folder.`,
      );
    await new Promise((r) => setTimeout(r, 200));
  }
}

/**
 * Migrates, fills an empty database with the demo, and starts web, worker and share pages under supervision.
 * @param {{ supervisor: ReturnType<typeof import('./supervise.mjs').createSupervisor>, databaseUrl: string, data: string,
 *   port: number, shareHost?: string, dev?: boolean, demo?: boolean }} options
 * @returns where the share pages are
 */
export async function startStudio({
  supervisor,
  databaseUrl,
  data,
  port,
  shareHost,
  dev = false,
  demo = true,
}) {
  const share = shareHost ?? `127.0.0.1:${await freePort()}`;
  const env = {
    SHARE_HOST: share,
    DATABASE_URL: databaseUrl,
    DATA_DIR: data,
    PORT: String(port),
    NEXT_TELEMETRY_DISABLED: '1',
    NODE_ENV: dev ? 'development' : 'production',
  };
  await step('Preparing tables', async () => {
    const said = await run('node', program('maintenance/migrate'), { env });
    return said.trim();
  });
  if (demo)
    await step('Looking for lessons', async () => {
      const said = await run('node', program('demo/fill'), { env });
      return said.trim();
    });
  await step('Starting the studio', async () => {
    const next = 'node_modules/next/dist/bin/next';
    const args = [next, dev ? 'dev' : 'start', '-H', '127.0.0.1', '-p', String(port)];
    supervisor.start({ name: 'web', command: 'node', args, env });
    supervisor.start({ name: 'worker', command: 'node', args: program('worker'), env });
    supervisor.start({ name: 'share', command: 'node', args: program('share-pages'), env });
    await answers(port, 90);
  });
  return share;
}

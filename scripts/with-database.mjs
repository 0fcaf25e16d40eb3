// A database of its own for a command: tests and benchmarks. Uses nothing but Node.
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { clusterCommand, clusterReady, prepareCluster } from './cluster.mjs';
import { command, run } from './steps.mjs';
import { createSupervisor } from './supervise.mjs';

/**
 * Creates an empty data folder with a running, empty database; both are gone afterwards.
 * @template T
 * @param {(place: { data: string, url: string, supervisor: ReturnType<typeof createSupervisor>, cluster: import('./cluster.mjs').Cluster }) => Promise<T>} work
 */
export async function withDatabase(work) {
  const data = mkdtempSync(join(tmpdir(), 'otter-'));
  chmodSync(data, 0o711);
  const cluster = await prepareCluster(data);
  const supervisor = createSupervisor(data);
  const stop = () => supervisor.stop().finally(() => rmSync(data, { recursive: true, force: true }));
  const onSignal = () => stop().finally(() => process.exit(130));
  process.once('SIGINT', onSignal);
  process.once('SIGTERM', onSignal);
  try {
    supervisor.start({ name: 'database', ...clusterCommand(cluster), stopSignal: 'SIGINT' });
    await clusterReady(cluster);
    return await work({ data, url: cluster.url, supervisor, cluster });
  } finally {
    process.off('SIGINT', onSignal);
    process.off('SIGTERM', onSignal);
    await stop();
  }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href)
  command(async () => {
    const [name = '', ...args] = process.argv.slice(2);
    await withDatabase(({ data, url }) =>
      run(name, args, { show: true, env: { DATABASE_URL: url, DATA_DIR: data } }),
    );
  });

// npm start: everything from a bare machine to a running studio, then supervision. Uses nothing but Node.
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { clusterCommand, clusterReady, prepareCluster } from './cluster.mjs';
import { ensurePackages } from './debian.mjs';
import { checkDisk, checkNode, ensureBuild, ensureModules } from './prepare.mjs';
import { buildPrograms } from './programs.mjs';
import { command, Plain, step } from './steps.mjs';
import { startStudio } from './studio.mjs';
import { createSupervisor, endLeftOvers, processBirth } from './supervise.mjs';
import { buildWorklets } from './worklets.mjs';

const USAGE = `npm start -- [--port N] [--share-host HOST:PORT] [--data DIR] [--empty] [--dev]
  --port N                the studio's port, on 127.0.0.1 only (4620)
  --share-host HOST:PORT  where pages of share links are served (127.0.0.1, the next port)
  --data DIR              where recordings, database and logs lie (.data)
  --empty                 no demo lessons in a new database
  --dev                   rebuild as the sources change`;

function options() {
  try {
    const { values } = parseArgs({
      options: {
        port: { type: 'string', default: '4620' },
        'share-host': { type: 'string' },
        data: { type: 'string', default: '.data' },
        empty: { type: 'boolean', default: false },
        dev: { type: 'boolean', default: false },
        help: { type: 'boolean', default: false },
      },
    });
    if (values.help) {
      console.log(USAGE);
      process.exit(0);
    }
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1024 || port > 65535)
      throw new Plain(`--port must be a whole number from 1024 to 65535; it was "${values.port}".`);
    const shareHost = values['share-host'] ?? `127.0.0.1:${port + 1}`;
    const [, sharePort] = /^(?:\[[0-9a-f:]+\]|[a-z0-9.-]+):(\d+)$/i.exec(shareHost) ?? [];
    if (!sharePort || Number(sharePort) < 1 || Number(sharePort) > 65535 || Number(sharePort) === port)
      throw new Plain(
        `--share-host must be an address and a port of its own, like 192.0.2.7:8080; it was "${shareHost}".`,
      );
    return { port, shareHost, data: resolve(values.data), empty: values.empty, dev: values.dev };
  } catch (error) {
    if (error instanceof Plain) throw error;
    throw new Plain(`${error instanceof Error ? error.message : error}\n${USAGE}`);
  }
}

/** One supervisor a data folder: a second start is told where the first one is. @param {string} data @param {number} port */
function claim(data, port) {
  const file = join(data, 'run', 'supervisor.pid');
  let held = '';
  try {
    held = readFileSync(file, 'utf8');
  } catch {
    // Nobody has it.
  }
  const [pid, birth, url] = held.split(' ');
  if (pid && birth && processBirth(Number(pid)) === birth)
    throw new Plain(
      `Already running on this data folder: ${url} (process ${pid}).\nStop it, or give another folder with --data DIR.`,
    );
  writeFileSync(file, `${process.pid} ${processBirth(process.pid)} http://127.0.0.1:${port}`);
  return () => rmSync(file, { force: true });
}

/** @param {number} port @param {string} host @param {string} option that gives another one */
function checkPort(port, host, option) {
  return new Promise((done, fail) => {
    const server = createServer();
    server.on('error', () =>
      fail(
        new Plain(
          `${host}:${port} cannot be used: another program has it, or this machine has no such address. Give another one: npm start -- ${option}`,
        ),
      ),
    );
    server.listen(port, host, () => server.close(() => done(undefined)));
  });
}

command(async () => {
  const { port, shareHost, data, empty, dev } = options();
  process.chdir(resolve(dirname(fileURLToPath(import.meta.url)), '..'));
  checkNode();
  mkdirSync(join(data, 'run'), { recursive: true });
  checkDisk(data);
  // Claimed first: what a running supervisor started is no left-over.
  const release = claim(data, port);
  process.on('exit', release);
  await endLeftOvers(data, ['share', 'worker', 'web']);
  // The next port may be that of a studio's links: the hint leaves it out.
  await checkPort(port, '127.0.0.1', `--port ${port + 2}`);
  const at = shareHost.lastIndexOf(':');
  const shareName = shareHost.slice(0, at).replace(/^\[|\]$/g, '');
  await checkPort(Number(shareHost.slice(at + 1)), shareName, `--share-host ${shareName}:${port + 3}`);
  console.log('Mellow Otter');
  await ensurePackages(['postgresql', 'ffmpeg', 'poppler-utils', 'librsvg2-bin']);
  await ensureModules();
  if (dev) await Promise.all([buildWorklets(), buildPrograms()]);
  else await ensureBuild();

  const cluster = await prepareCluster(data);
  const supervisor = createSupervisor(data);
  let ending = false;
  const end = async () => {
    if (ending) return;
    ending = true;
    console.log('\nStopping …');
    await supervisor.stop();
    console.log('Stopped. Everything recorded is kept.');
    process.exit(0);
  };
  for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP'])) process.on(signal, end);

  try {
    await step('Starting the database', async () => {
      // SIGINT is PostgreSQL's fast shutdown: clients are disconnected, nothing is lost.
      supervisor.start({ name: 'database', ...clusterCommand(cluster), stopSignal: 'SIGINT' });
      await clusterReady(cluster);
    });
    await startStudio({ supervisor, databaseUrl: cluster.url, data, port, shareHost, dev, demo: !empty });
    console.log(
      `\nOpen http://localhost:${port}   (Ctrl-C stops it)\nShared links are served at http://${shareHost}\nRecordings, database and logs: ${data}\n`,
    );
  } catch (error) {
    await supervisor.stop();
    throw error;
  }
});

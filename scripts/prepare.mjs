// Brings the checkout up to date: packages from the lock file, a build of the present sources. Uses nothing but Node.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statfsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildPrograms } from './programs.mjs';
import { Plain, run, step } from './steps.mjs';
import { buildWorklets } from './worklets.mjs';

/** @param {string} path @param {import('node:crypto').Hash} hash */
function addToHash(path, hash) {
  for (const entry of readdirSync(path, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const at = join(path, entry.name);
    if (entry.isDirectory()) addToHash(at, hash);
    else hash.update(at).update(readFileSync(at));
  }
}

/**
 * Runs `work` unless the stamp says that it was done for exactly these files.
 * @param {string} stamp where the fingerprint of the last success is kept
 * @param {string[]} inputs files and folders
 * @param {() => Promise<void>} work
 */
async function unlessDone(stamp, inputs, work) {
  const hash = createHash('sha256');
  for (const input of inputs) {
    if (!existsSync(input)) continue;
    if (readdirOk(input)) addToHash(input, hash);
    else hash.update(input).update(readFileSync(input));
  }
  const print = hash.digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === print) return;
  await work();
  writeFileSync(stamp, print);
}

/** @param {string} path */
function readdirOk(path) {
  try {
    readdirSync(path);
    return true;
  } catch {
    return false;
  }
}

/** Node older than the frameworks need is told before anything fails in a stranger way. */
export function checkNode() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 9))
    throw new Plain(`This needs Node 20.9 or newer; here is ${process.versions.node}.`);
}

/** `npm ci`, when node_modules is not what the lock file says. */
export async function ensureModules() {
  await unlessDone('node_modules/.lock-installed', ['package-lock.json'], () =>
    step('Installing npm packages', async (progress) => {
      await run('npm', ['ci', '--no-audit', '--no-fund'], {
        progress,
        failure: 'npm ci failed. Is the npm registry reachable from here?',
      });
    }),
  );
}

/** A production build, when the sources are not those of the last one. */
export async function ensureBuild() {
  await buildWorklets();
  const inputs = [
    'src',
    'public',
    'scripts/programs.mjs',
    'next.config.ts',
    'tsconfig.json',
    'package-lock.json',
  ];
  await unlessDone('.next/built-from', inputs, () =>
    step('Building (about a minute, once per version)', async (progress) => {
      await run('node', ['node_modules/next/dist/bin/next', 'build'], {
        progress,
        env: { NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
        failure: 'The build failed.',
      });
      await buildPrograms();
    }),
  );
}

/**
 * Stops before a start that would end in half-written files.
 * @param {string} dir an existing folder on the disk in question
 */
export function checkDisk(dir) {
  const { bavail, bsize } = statfsSync(dir);
  const freeMb = Math.floor((bavail * bsize) / 1e6);
  if (freeMb < 300)
    throw new Plain(
      `Only ${freeMb} MB are free on the disk of ${dir}; at least 300 MB are needed to start.\nFree some space, or give another folder with --data DIR.`,
    );
}

// Keeps a set of processes running: one that dies is started again. Uses nothing but Node.
import { spawn } from 'node:child_process';
import {
  appendFileSync,
  mkdirSync,
  openSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';

/**
 * @typedef {{ name: string, command: string, args: string[], cwd?: string, uid?: number, gid?: number,
 *   env?: Record<string, string>, stopSignal?: NodeJS.Signals }} Service
 */

const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 15_000;
/** A service that lived this long had started well: the next failure begins with the short wait again. */
const HEALTHY_MS = 30_000;
const LOG_LIMIT_BYTES = 5_000_000;

/**
 * Identity of a process that survives a reuse of its number: the start time of /proc/PID/stat (field 22).
 * @param {number} pid
 */
export function processBirth(pid) {
  try {
    const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return text.slice(text.lastIndexOf(')') + 2).split(' ')[19];
  } catch {
    return undefined;
  }
}

/**
 * @param {string} data the data folder: logs go to logs/, process numbers to run/
 */
export function createSupervisor(data) {
  const logs = join(data, 'logs');
  const runDir = join(data, 'run');
  mkdirSync(logs, { recursive: true });
  mkdirSync(runDir, { recursive: true });
  /** @type {Map<string, import('node:child_process').ChildProcess>} */
  const children = new Map();
  /** @type {string[]} services in the order of their start; stopped in the opposite order */
  const order = [];
  /** @type {Map<string, Service>} */
  const services = new Map();
  let stopping = false;

  /** @param {Service} service @param {number} wait */
  function launch(service, wait) {
    const logFile = join(logs, `${service.name}.log`);
    try {
      if (statSync(logFile).size > LOG_LIMIT_BYTES) truncateSync(logFile);
    } catch {
      // No log yet.
    }
    const log = openSync(logFile, 'a');
    const child = spawn(service.command, service.args, {
      cwd: service.cwd,
      uid: service.uid,
      gid: service.gid,
      env: { ...process.env, ...service.env },
      stdio: ['ignore', log, log],
      // A group of its own: Ctrl-C reaches only the supervisor, which then stops them in order.
      detached: true,
    });
    children.set(service.name, child);
    const born = Date.now();
    if (child.pid)
      writeFileSync(join(runDir, `${service.name}.pid`), `${child.pid} ${processBirth(child.pid) ?? ''}`);
    let ended = false;
    const onEnd = (/** @type {string} */ how) => {
      if (ended) return;
      ended = true;
      children.delete(service.name);
      rmSync(join(runDir, `${service.name}.pid`), { force: true });
      if (stopping) return;
      const next = Date.now() - born > HEALTHY_MS ? FIRST_WAIT_MS : Math.min(wait * 2, LONGEST_WAIT_MS);
      appendFileSync(logFile, `\n--- ${service.name} ended (${how}) ${new Date().toISOString()}\n`);
      const keepsDying = next >= 8000;
      console.log(
        keepsDying
          ? `  ${service.name} keeps ending (${how}). Its last words are in ${logFile}:\n${tail(logFile)}\n  Trying again in ${next / 1000} s.`
          : `  ${service.name} ended (${how}); starting it again.`,
      );
      setTimeout(() => {
        if (!stopping) launch(service, next);
      }, next);
    };
    child.on('error', (error) => onEnd(error.message));
    child.on('exit', (code, signal) => onEnd(signal ?? `code ${code}`));
  }

  return {
    /** Starts a service and keeps it running. @param {Service} service */
    start(service) {
      services.set(service.name, service);
      order.push(service.name);
      launch(service, FIRST_WAIT_MS / 2);
    },
    /** Ends all, the last started first; each gets 10 s before it is killed. */
    async stop() {
      stopping = true;
      for (const name of [...order].reverse()) {
        const child = children.get(name);
        if (!child?.pid) continue;
        const gone = new Promise((resolve) => child.once('exit', resolve));
        child.kill(services.get(name)?.stopSignal ?? 'SIGTERM');
        const killer = setTimeout(() => child.kill('SIGKILL'), 10_000);
        await gone;
        clearTimeout(killer);
      }
    },
  };
}

/** @param {string} file */
function tail(file) {
  const lines = readFileSync(file, 'utf8').trimEnd().split('\n').slice(-8);
  return lines.map((line) => `    ${line}`).join('\n');
}

/**
 * Ends what a killed supervisor left behind. A number that now belongs to another process is left alone.
 * @param {string} data
 * @param {string[]} names
 */
export async function endLeftOvers(data, names) {
  for (const name of names) {
    const file = join(data, 'run', `${name}.pid`);
    let text = '';
    try {
      text = readFileSync(file, 'utf8');
    } catch {
      continue;
    }
    const [pid = 0, birth] = [Number(text.split(' ')[0]), text.split(' ')[1]];
    if (pid && birth && processBirth(pid) === birth) {
      process.kill(pid, 'SIGTERM');
      for (let i = 0; i < 100 && processBirth(pid) === birth; i++)
        await new Promise((r) => setTimeout(r, 100));
      if (processBirth(pid) === birth) process.kill(pid, 'SIGKILL');
    }
    rmSync(file, { force: true });
  }
}

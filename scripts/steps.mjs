// What the start and test commands say while they work. Uses nothing but Node, because it runs before `npm ci`.
import { spawn } from 'node:child_process';

const tty = process.stdout.isTTY === true;
const paint = (/** @type {string} */ code, /** @type {string} */ text) =>
  tty ? `\u001b[${code}m${text}\u001b[0m` : text;

/** An error meant for the person at the terminal: what is wrong and what to do. Printed without a stack. */
export class Plain extends Error {}

/**
 * Runs one named step and prints how it went.
 * @template T
 * @param {string} name what is being done, in the words of the person who waits for it
 * @param {(progress: (text: string) => void) => Promise<T>} work may call `progress` with its latest line
 * @returns {Promise<T>}
 */
export async function step(name, work) {
  const began = Date.now();
  const seconds = () => ((Date.now() - began) / 1000).toFixed(1);
  let latest = '';
  const timer = tty
    ? setInterval(() => {
        const width = Math.max(20, (process.stdout.columns ?? 80) - 1);
        process.stdout.write(`\r\u001b[K${`  … ${name} ${seconds()} s  ${latest}`.slice(0, width)}`);
      }, 200)
    : setInterval(() => console.log(`  … ${name} ${seconds()} s  ${latest}`), 15_000);
  try {
    const result = await work((text) => {
      latest = text.trim();
    });
    clearInterval(timer);
    const note = typeof result === 'string' && result ? `: ${result}` : '';
    console.log(`${tty ? '\r\u001b[K' : ''}  ${paint('32', 'done')} ${name}${note} (${seconds()} s)`);
    return result;
  } catch (error) {
    clearInterval(timer);
    console.log(`${tty ? '\r\u001b[K' : ''}  ${paint('31', 'failed')} ${name}`);
    throw error;
  }
}

/**
 * Runs a command to its end.
 * @param {string} command
 * @param {string[]} args
 * @param {{ progress?: (line: string) => void, show?: boolean, env?: Record<string, string>, cwd?: string, uid?: number, gid?: number, failure?: string }} [options]
 *   `show` passes its output through; otherwise the last 30 lines are kept for the error.
 * @returns {Promise<string>} what it printed on standard output
 * @throws {Plain} when it exits with another code than 0
 */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd: options.cwd,
      uid: options.uid,
      gid: options.gid,
      env: { ...process.env, ...options.env },
      stdio: options.show ? 'inherit' : ['ignore', 'pipe', 'pipe'],
    });
    let out = '';
    /** @type {string[]} */
    const tail = [];
    const keep = (/** @type {Buffer} */ data) => {
      for (const line of data.toString().split(/\r?\n/)) {
        if (!line.trim()) continue;
        tail.push(line);
        if (tail.length > 30) tail.shift();
        options.progress?.(line);
      }
    };
    child.stdout?.on('data', (data) => {
      out += data;
      keep(data);
    });
    child.stderr?.on('data', keep);
    child.on('error', (error) => reject(new Plain(`${command} could not be started: ${error.message}`)));
    child.on('close', (code, signal) => {
      if (code === 0) return resolve(out);
      const what = options.failure ?? `${[command, ...args].join(' ')} failed (${signal ?? `code ${code}`}).`;
      reject(new Plain([what, ...tail].join('\n    ')));
    });
  });
}

/**
 * Runs a command's main function and turns what it throws into one message and exit code 1.
 * @param {() => Promise<void>} main
 */
export function command(main) {
  main().catch((error) => {
    if (error instanceof Plain) console.error(`\n${error.message}`);
    else if (error?.code === 'ENOSPC')
      console.error(
        `\nThe disk is full (${error.path ?? 'no path given'}). Free some space and start again.`,
      );
    else console.error(error);
    process.exit(1);
  });
}

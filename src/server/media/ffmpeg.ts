import { type ChildProcess, type ChildProcessByStdio, spawn } from 'node:child_process';
import { once } from 'node:events';
import { constants, setPriority } from 'node:os';
import { sep } from 'node:path';
import { createInterface } from 'node:readline';
import type { Readable, Writable } from 'node:stream';

import { JOINED } from './joined';
import { INSPECTED } from './media-folder';
import { watchStill } from './watch-still';

export class Cancelled extends Error {}

type RunOptions = {
  /** Length of what is made, for the share in `onProgress`. */
  durationUs?: number;
  /** 0…1 */
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
  /** Without another frame, instant or byte for so long it is ended. */
  stillMs?: number;
  /** Gets what is written to file descriptor 3, and is ended with it. */
  packets?: Writable;
};

/** FFmpeg 5.1 has been seen to wait for ever within its own filters; then nothing but a kill helps, and the worker takes no other job. */
const STILL_MS = 5 * 60_000;

/**
 * Starts a program that ends with this process, even when that is killed: the kernel sees to it. An encoder nobody waits for would
 * otherwise go on for minutes, beside the one that a new worker has started.
 */
function run(
  program: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  { stdin = 'ignore', packets = false }: { stdin?: 'ignore' | 'pipe'; packets?: boolean } = {},
): Child {
  const stdio = [stdin, 'pipe' as const, 'pipe' as const, ...(packets ? ['pipe' as const] : [])];
  return spawn('setpriv', endingWithThis(program, args), { stdio }) as Child;
}
type Child = ChildProcessByStdio<Writable | null, Readable, Readable>;

const endingWithThis = (program: string, args: readonly string[]): string[] => [
  ...['--pdeathsig', 'KILL', '--', ...(isFromOutside(args) ? LIMITS : []), program],
  ...args.flatMap(onlyFiles),
];

/** A file that was made to do harm may ask for all memory there is; a true one of 4K needs less than a quarter of this. */
const LIMITS = ['prlimit', '--as=8000000000', '--core=0', '--nofile=256', '--'];

/** Whether something is read that nobody has looked into yet: that is where such files wait. */
const isFromOutside = (args: readonly string[]): boolean =>
  args.some((arg, i) => args[i - 1] === '-i' && arg.split(sep).includes(INSPECTED));

/** An input is a file of this machine, whatever it says inside: some formats can point elsewhere. `joined.ts` puts files together by name. */
const onlyFiles = (arg: string, i: number, args: readonly string[]): string[] => {
  if (arg !== '-i') return [arg];
  const isJoined = args[i + 1]?.startsWith(JOINED) ?? false;
  return ['-protocol_whitelist', isJoined ? 'file,pipe,concat,subfile' : 'file,pipe', '-i'];
};

/**
 * Runs ffmpeg. Overwrites its output; reads nothing from standard input.
 * @throws {Cancelled} when the signal was aborted; an Error with ffmpeg's last words when it failed, or that says that it stood still
 */
export async function ffmpeg(
  args: readonly string[],
  { durationUs, onProgress, signal, stillMs = STILL_MS, packets }: RunOptions = {},
): Promise<void> {
  const fixed = ['-hide_banner', '-nostdin', '-y', '-loglevel', 'error', '-progress', 'pipe:1'];
  const child = run('ffmpeg', [...fixed, ...args], { packets: packets !== undefined });
  if (packets) (child.stdio[3] as Readable).pipe(packets);
  const still = watchStill(stillMs);
  const lines = createInterface({ input: child.stdout });
  lines.on('line', (line) => {
    still.told(line);
    const us = /^out_time_us=(\d+)/.exec(line)?.[1];
    if (us && durationUs) onProgress?.(Math.min(1, Number(us) / durationUs));
  });
  try {
    await ended('ffmpeg', child, signal ? AbortSignal.any([signal, still.signal]) : still.signal);
  } catch (error) {
    if (!still.signal.aborted || signal?.aborted) throw error;
    throw new Error(`ffmpeg made no progress for ${Math.round(stillMs / 1000)} s and was ended.`);
  } finally {
    still.stop();
  }
}

/** Runs a program and gives every line that it prints. */
export async function lines(
  program: 'ffprobe' | 'ffmpeg',
  args: readonly string[],
  onLine: (line: string) => void,
  signal?: AbortSignal,
): Promise<void> {
  const child = run(program, args);
  const reader = createInterface({ input: child.stdout });
  reader.on('line', onLine);
  const read = new Promise((done) => reader.once('close', done));
  await ended(program, child, signal);
  await read;
}

/** What ffmpeg says beside its output: filters that measure print there. The last 20 kB. */
export async function words(args: readonly string[], signal?: AbortSignal): Promise<string> {
  const child = run('ffmpeg', args);
  child.stdout.resume();
  let all = '';
  child.stderr.on('data', (data) => {
    all = (all + data).slice(-20_000);
  });
  await ended('ffmpeg', child, signal);
  return all;
}

/**
 * Streams raw bytes that ffmpeg decodes to standard output.
 * @param onData the next bytes come when what it returns is settled, so that a slow taker fills no memory
 * @param input what it reads from standard input, where its arguments say so
 */
export async function decode(
  args: readonly string[],
  onData: (data: Buffer) => void | Promise<void>,
  signal?: AbortSignal,
  input?: Readable,
): Promise<void> {
  const fixed = ['-hide_banner', '-nostdin', '-loglevel', 'error'];
  const child = run('ffmpeg', [...fixed, ...args, 'pipe:1'], { stdin: input ? 'pipe' : 'ignore' });
  if (input && child.stdin) {
    // Why it ended is told below; a pipe that nobody reads any more says nothing new.
    child.stdin.on('error', () => undefined);
    input.pipe(child.stdin);
  }
  const take = async () => {
    for await (const data of child.stdout) await onData(data);
  };
  try {
    await Promise.all([ended('ffmpeg', child, signal), take()]);
  } finally {
    // What nobody decodes any more is let go: whoever writes it could not end otherwise.
    input?.unpipe().resume();
  }
}

/**
 * Runs ffmpeg on raw bytes that are given to its standard input.
 * @returns `put` is settled when the next bytes may come, `end` when the output is whole
 */
export function encoder(
  args: readonly string[],
  signal?: AbortSignal,
): { put: (data: Uint8Array) => Promise<void>; end: () => Promise<void> } {
  const fixed = ['-hide_banner', '-y', '-loglevel', 'error'];
  const child = spawn('setpriv', endingWithThis('ffmpeg', [...fixed, ...args]), {
    stdio: ['pipe', 'ignore', 'pipe'],
  });
  const done = ended('ffmpeg', child, signal);
  // Why it ended is told by `done`; a pipe that nobody reads any more says nothing new.
  child.stdin.on('error', () => undefined);
  done.catch(() => undefined);
  return {
    put: async (data) => {
      if (!child.stdin.write(data)) await Promise.race([once(child.stdin, 'drain'), done]);
    },
    end: () => {
      child.stdin.end();
      return done;
    },
  };
}

function ended(name: string, child: ChildProcess, signal?: AbortSignal): Promise<void> {
  // Whoever records, or watches the take that is being finished, comes first on a shared machine.
  if (child.pid !== undefined) setPriority(child.pid, constants.priority.PRIORITY_LOW);
  return new Promise((resolve, reject) => {
    let words = '';
    child.stderr?.on('data', (data) => {
      words = (words + data).slice(-2000);
    });
    const stop = () => child.kill('SIGKILL');
    signal?.addEventListener('abort', stop, { once: true });
    if (signal?.aborted) stop();
    child.on('error', reject);
    child.on('close', (code) => {
      signal?.removeEventListener('abort', stop);
      if (signal?.aborted) reject(new Cancelled());
      else if (code === 0) resolve();
      else reject(new Error(`${name} failed (${code}): ${words.trim().split('\n').slice(-2).join(' ')}`));
    });
  });
}

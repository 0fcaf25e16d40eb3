import { type ChildProcess, spawn } from 'node:child_process';
import { subscribe } from 'node:diagnostics_channel';
import { linkSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';

/** Notes every ffmpeg that this process runs. Masks that a command reads are kept, because the job removes them. */
export function noteCommands(data: string): (work: () => Promise<void>) => Promise<string[][]> {
  let list: string[][] | null = null;
  subscribe('child_process', (message) => {
    const { process: child } = message as { process: ChildProcess };
    const noted = list;
    // Told before the child has its arguments.
    setImmediate(() => {
      // It is started by a program that sees to its end.
      const at = child.spawnargs.indexOf('ffmpeg');
      if (at < 0 || !noted) return;
      noted.push(
        child.spawnargs.slice(at + 1).map((arg) => {
          if (!arg.endsWith('.pgm')) return arg;
          const kept = join(data, basename(arg));
          linkSync(arg, kept);
          return kept;
        }),
      );
    });
  });
  return async (work) => {
    const own: string[][] = [];
    list = own;
    await work();
    list = null;
    return own;
  };
}

/** One plain ffmpeg. @throws when it fails */
export const runFfmpeg = (args: string[]) =>
  new Promise<void>((done, fail) => {
    spawn('ffmpeg', args, { stdio: 'ignore' }).on('close', (code) =>
      code === 0 ? done() : fail(new Error(`ffmpeg ${args.join(' ')} ended with ${code}.`)),
    );
  });

/** Processor seconds of this process and of every child that it has waited for (proc(5): utime, stime, cutime, cstime). */
export function cpuSeconds(): number {
  const stat = readFileSync('/proc/self/stat', 'utf8');
  const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
  return [11, 12, 13, 14].reduce((sum, at) => sum + Number(fields[at]), 0) / 100;
}

import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it, vi } from 'vitest';
import { Cancelled, ffmpeg, lines } from './ffmpeg';
import { INSPECTED } from './media-folder';

const folder = mkdtempSync(join(tmpdir(), 'otter-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** The most memory that a program may ask for which has a file open. */
function memoryLimitOf(path: string): string | null {
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name)))
    try {
      const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0');
      if (command[0] !== 'ffprobe' || !command.includes(path)) continue;
      return /Max address space +(\S+)/.exec(readFileSync(`/proc/${pid}/limits`, 'utf8'))?.[1] ?? null;
    } catch {
      // It ended meanwhile.
    }
  return null;
}

it('ends an encode that stands still and says so; one that was cancelled is only that', async () => {
  const pipe = join(folder, 'nobody-writes');
  execFileSync('mkfifo', [pipe]);
  const waiting = ['-f', 'rawvideo', '-s', '16x16', '-i', pipe, '-f', 'null', '-'];
  await expect(ffmpeg(waiting, { stillMs: 600 })).rejects.toThrow(/no progress for 1 s and was ended/);
  const ending = new AbortController();
  const cancelled = ffmpeg(waiting, { stillMs: 600, signal: ending.signal });
  ending.abort();
  await expect(cancelled).rejects.toThrow(Cancelled);
});

it('lets what reads a file from outside have only so much memory, and leaves files of its own alone', async () => {
  mkdirSync(join(folder, INSPECTED));
  const paths = [join(folder, INSPECTED, 'brought'), join(folder, 'own')];
  const limits = [];
  for (const path of paths) {
    // Whoever opens a pipe that nobody writes to waits there.
    execFileSync('mkfifo', [path]);
    const ending = new AbortController();
    const reading = lines('ffprobe', ['-i', path], () => undefined, ending.signal).catch(() => undefined);
    await vi.waitFor(() => expect(memoryLimitOf(path)).not.toBeNull(), { timeout: 10_000 });
    limits.push(memoryLimitOf(path));
    ending.abort();
    await reading;
  }
  expect(limits).toEqual(['8000000000', 'unlimited']);
});

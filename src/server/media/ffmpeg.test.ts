import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { afterAll, expect, it, vi } from 'vitest';
import { together } from '../delivery/together';
import { Cancelled, decode, ffmpeg, lines } from './ffmpeg';
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

/** Encodes far more than a pipe holds, and decodes it meanwhile. @returns bytes of all its pictures */
async function decodedMeanwhile(filter: string, signal = new AbortController().signal): Promise<number> {
  const packets = new PassThrough();
  let bytes = 0;
  const film = ['-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=25:d=8', '-c:v', 'mpeg4', '-q:v', '2'];
  await together(signal, [
    (own) => ffmpeg([...film, '-f', 'nut', 'pipe:3'], { signal: own, packets }),
    (own) =>
      decode(
        ['-f', 'nut', '-i', 'pipe:0', '-vf', filter, '-pix_fmt', 'gray', '-f', 'rawvideo'],
        (data) => {
          bytes += data.length;
        },
        own,
        packets,
      ),
  ]);
  return bytes;
}

it('decodes what another encodes; when one of both fails, or is cancelled, neither waits for the other', async () => {
  expect(await decodedMeanwhile('scale=64:36')).toBe(64 * 36 * 200);
  await expect(decodedMeanwhile('no-such-filter')).rejects.toThrow(/Failed to inject/);
  const ending = new AbortController();
  const cancelled = decodedMeanwhile('scale=64:36', ending.signal);
  setTimeout(() => ending.abort(), 300);
  await expect(cancelled).rejects.toThrow();
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

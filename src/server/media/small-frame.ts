import type { TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import { seconds } from '@/core/commands/seconds';
import { decode } from './ffmpeg';
import { madePath, sizeOf } from './media-folder';

const WIDTH = 160;
/** So many at once: a list of steps asks for all of its pictures, and somebody may be recording. */
const AT_ONCE = 2;

let running = 0;
const waiting: (() => void)[] = [];

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= AT_ONCE) await new Promise<void>((done) => waiting.push(done));
  running++;
  try {
    return await work();
  } finally {
    running--;
    waiting.shift()?.();
  }
}

/**
 * The first track's picture at a time of a take, as a JPEG that is 160 pixels wide.
 * @throws {ProblemError} `not-found` when the take is not finished, or has no picture there
 */
export async function smallFrame(take: TakeId, us: number): Promise<Buffer<ArrayBuffer>> {
  const path = madePath(take, 'recorded.mkv');
  const missing = () =>
    new ProblemError({ code: 'not-found', message: 'There is no picture of this time yet.' });
  if ((await sizeOf(path)) === null) throw missing();
  const parts: Buffer[] = [];
  const at = seconds(us);
  // The last picture before the time, also after the track has given its last one.
  const shown = `tpad=stop_mode=clone:stop_duration=86400,setpts=PTS-${at}/TB,fps=30:start_time=0`;
  await inTurn(
    () =>
      decode(
        [
          ...['-copyts', '-noaccurate_seek', '-ss', at, '-i', path, '-map', '0:v:0', '-frames:v', '1'],
          ...['-vf', `${shown},scale=${WIDTH}:-2`, '-q:v', '4', '-f', 'mjpeg'],
        ],
        (data) => void parts.push(data),
      ),
    // What cannot be decoded, as a take of sound alone, has no picture either.
  ).catch(() => undefined);
  if (parts.length === 0) throw missing();
  return Buffer.concat(parts);
}

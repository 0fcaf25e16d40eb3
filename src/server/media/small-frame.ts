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
  const look = (seek: readonly string[]) =>
    inTurn(() =>
      decode(
        [
          ...[...seek, '-ss', seconds(us), '-i', path, '-map', '0:v:0', '-frames:v', '1'],
          ...['-vf', `scale=${WIDTH}:-2`, '-q:v', '4', '-f', 'mjpeg'],
        ],
        (data) => void parts.push(data),
      ).catch(() => undefined),
    );
  // What cannot be decoded, as a take of sound alone, has no picture either.
  await look([]);
  // After the last picture of a track nothing comes any more: the one before stands there.
  if (parts.length === 0) await look(['-noaccurate_seek']);
  if (parts.length === 0) throw missing();
  return Buffer.concat(parts);
}

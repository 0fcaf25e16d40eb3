import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import type { IncomingMessage } from 'node:http';
import { dirname } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { bytesText } from '@/core/base/figures';
import { ProblemError } from '@/core/base/problem';

/**
 * Streams the body of a request to a file; it is never held in memory.
 * @param most bytes that there is room for
 * @throws {ProblemError} `disk-full` when it is larger
 */
export async function receiveFile(request: IncomingMessage, path: string, most: number): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  await pipeline(request, atMost(most), createWriteStream(path));
}

/** Passes bytes on while there is room for them. */
function atMost(most: number): Transform {
  let bytes = 0;
  return new Transform({
    transform(part: Buffer, _, done) {
      bytes += part.length;
      if (bytes <= most) return done(null, part);
      done(
        new ProblemError({
          code: 'disk-full',
          message: `The studio’s disk has no room for more than ${bytesText(Math.max(0, most))} of this file.`,
          hint: 'Free some space on the studio’s disk.',
        }),
      );
    },
  });
}

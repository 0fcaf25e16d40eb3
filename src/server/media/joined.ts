import { open } from 'node:fs/promises';

/** "Cluster Element ID: 0x1F43B675" (RFC 9559 section 5.1.3). */
const CLUSTER = Buffer.from([0x1f, 0x43, 0xb6, 0x75]);
/** Header, information and tracks of a segment file are far shorter. */
const SEARCHED_BYTES = 256 * 1024;

/** What the name of several files as one input begins with. */
export const JOINED = 'concat:';

/** Where a Matroska file's first cluster begins; null when it has none: nothing was written to it but its head, or nothing at all. */
export async function firstCluster(path: string): Promise<number | null> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(SEARCHED_BYTES), 0, SEARCHED_BYTES, 0);
    const at = buffer.subarray(0, bytesRead).indexOf(CLUSTER);
    return at < 0 ? null : at;
  } finally {
    await file.close();
  }
}

/**
 * Several segments of one unbroken run as one input of ffmpeg, without copying a byte: the first file, then the clusters of each further
 * one. Segments are written append-only into a Matroska segment of unknown size, on the take's clock, so that this is what one long
 * file would have been.
 * @param paths Matroska files, in order; each continues the one before it
 */
export async function joinedInput(paths: readonly string[]): Promise<string> {
  const [first = '', ...rest] = paths;
  const parts = [first];
  for (const path of rest) {
    const start = await firstCluster(path);
    // Nothing was written to it before the take ended.
    if (start !== null) parts.push(`subfile,,start,${start},end,0,,:${path}`);
  }
  return parts.length === 1 ? first : `${JOINED}${parts.join('|')}`;
}

import { open, rm } from 'node:fs/promises';
import { type TextClarity, textClarity, type VideoClarity, videoClarity } from '@/core/clarity';
import { comparingFilters } from '@/core/render/output-shape';
import type { PlannedPicture } from '@/core/render/plan';
import { decode } from '../media/ffmpeg';
import { localFile } from '../media/measure';

/**
 * Text clarity of a finished picture: some of its frames against the composed pictures that went into the encoder. The references are
 * read from disk one at a time and removed.
 * @returns null when nothing was encoded, or no text was found
 */
export async function compareWithReference(
  picture: PlannedPicture,
  path: string,
  signal: AbortSignal,
): Promise<VideoClarity | null> {
  const { size, shape } = picture;
  const area = size.width * size.height;
  const wanted = picture.parts.flatMap((part) =>
    part.kind === 'encode'
      ? part.reference.frames.map((frame, n) => ({ frame, path: part.reference.path, offset: n * area }))
      : [],
  );
  if (wanted.length === 0) return null;
  const chosen = wanted.map(({ frame }) => `eq(n,${frame})`).join('+');
  const results: TextClarity[] = [];
  let shown: Buffer = Buffer.alloc(0);
  const whole: Buffer[] = [];
  const args = [...localFile(path), '-an', '-vf', `select='${chosen}',${comparingFilters(size, shape)}`];
  await decode(
    [...args, '-fps_mode', 'passthrough', '-f', 'rawvideo'],
    (data) => {
      shown = shown.length > 0 ? Buffer.concat([shown, data]) : data;
      for (; shown.length >= area; shown = shown.subarray(area))
        whole.push(Buffer.from(shown.subarray(0, area)));
    },
    signal,
  );
  for (const [i, { path: file, offset }] of wanted.entries()) {
    const data = whole[i];
    if (!data) break;
    const reference = await readAt(file, offset, area);
    if (reference) results.push(textClarity({ ...size, data: reference }, { ...size, data }));
  }
  for (const file of new Set(wanted.map((each) => each.path))) await rm(file, { force: true });
  return videoClarity(results);
}

async function readAt(path: string, offset: number, length: number): Promise<Uint8Array | null> {
  const file = await open(path, 'r');
  try {
    const data = new Uint8Array(length);
    const { bytesRead } = await file.read(data, 0, length, offset);
    return bytesRead === length ? data : null;
  } finally {
    await file.close();
  }
}

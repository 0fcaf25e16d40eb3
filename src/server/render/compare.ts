import { open, rm } from 'node:fs/promises';
import { type TextClarity, textClarity, type VideoClarity, videoClarity } from '@/core/clarity';
import { comparingFilters } from '@/core/render/output-shape';
import type { PicturePart, PlannedPicture } from '@/core/render/plan';
import { decode } from '../media/ffmpeg';

/**
 * Text clarity of the encoded stretches of a picture: some of their frames against the composed pictures that went into the encoder.
 * A stretch lies in the finished file bit for bit, so it is read where it was made; copied ones are what they were.
 * @returns null when nothing was encoded, or no text was found
 */
export async function compareWithReference(
  picture: PlannedPicture,
  signal: AbortSignal,
): Promise<VideoClarity | null> {
  const results: TextClarity[] = [];
  for (const part of picture.parts)
    if (part.kind === 'encode' && part.reference.frames.length > 0)
      results.push(...(await comparePart(part, picture, signal)));
  return videoClarity(results);
}

async function comparePart(
  { path, reference }: Extract<PicturePart, { kind: 'encode' }>,
  { size, shape }: PlannedPicture,
  signal: AbortSignal,
): Promise<TextClarity[]> {
  const area = size.width * size.height;
  const chosen = reference.frames.map((frame) => `eq(n,${frame})`).join('+');
  const results: TextClarity[] = [];
  const file = await open(reference.path, 'r');
  const before = new Uint8Array(area);
  try {
    let rest: Buffer = Buffer.alloc(0);
    const shown: Buffer[] = [];
    await decode(
      [
        ...['-i', path, '-an', '-vf', `select='${chosen}',${comparingFilters(size, shape)}`],
        ...['-fps_mode', 'passthrough', '-f', 'rawvideo'],
      ],
      (data) => {
        rest = rest.length > 0 ? Buffer.concat([rest, data]) : data;
        for (; rest.length >= area; rest = rest.subarray(area))
          shown.push(Buffer.from(rest.subarray(0, area)));
      },
      signal,
    );
    for (const [n, data] of shown.entries()) {
      const { bytesRead } = await file.read(before, 0, area, n * area);
      if (bytesRead === area) results.push(textClarity({ ...size, data: before }, { ...size, data }));
    }
  } finally {
    await file.close();
  }
  await rm(reference.path, { force: true });
  return results;
}

import { rm, writeFile } from 'node:fs/promises';
import { roundedMask } from '@/core/render/picture-graph';
import type { PicturePart } from '@/core/render/plan';
import { ffmpeg } from '../media/ffmpeg';

type EncodePart = Extract<PicturePart, { kind: 'encode' }>;

/** Composes and encodes one stretch of a picture track. */
export async function makePart(
  part: EncodePart,
  durationUs: number,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const { mask, args } = part;
  if (mask) {
    const head = Buffer.from(`P5 ${mask.width} ${mask.height} 255\n`);
    await writeFile(mask.path, Buffer.concat([head, roundedMask(mask.width, mask.height, mask.radius)]));
  }
  try {
    await ffmpeg(args, { durationUs, onProgress, signal });
  } finally {
    if (mask) await rm(mask.path, { force: true });
  }
}

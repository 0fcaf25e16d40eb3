import { rm, writeFile } from 'node:fs/promises';
import { type Mask, roundedMask } from '@/core/render/picture-graph';
import type { PicturePart } from '@/core/render/plan';
import { ffmpeg } from '../media/ffmpeg';

type EncodePart = Extract<PicturePart, { kind: 'encode' }>;

/** Writes a mask where its graph reads it, as a PGM picture. */
export async function writeMask({ path, width, height, radius }: Mask): Promise<void> {
  const head = Buffer.from(`P5 ${width} ${height} 255\n`);
  await writeFile(path, Buffer.concat([head, roundedMask(width, height, radius)]));
}

/** Composes and encodes one stretch of a picture track. */
export async function makePart(
  { mask, args, durationUs }: EncodePart,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<void> {
  if (mask) await writeMask(mask);
  try {
    await ffmpeg(args, { durationUs, onProgress, signal });
  } finally {
    if (mask) await rm(mask.path, { force: true });
  }
}

import type { PicturePart } from '@/core/render/plan';
import { ffmpeg } from '../media/ffmpeg';
import { withGraphFiles } from './graph-files';

type EncodePart = Extract<PicturePart, { kind: 'encode' }>;

/** Composes and encodes one stretch of a picture track. */
export function makePart(
  { files, args, durationUs }: EncodePart,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<void> {
  return withGraphFiles(files, () => ffmpeg(args, { durationUs, onProgress, signal }));
}

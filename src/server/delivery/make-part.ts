import { encodePartCommand } from '@/core/commands/encode-part';
import type { EncodedPart, PlannedPicture } from '@/core/deliver/planned-picture';
import { ffmpeg } from '../media/ffmpeg';
import { withGraphFiles } from './graph-files';

/** Composes and encodes one stretch of a picture track. */
export function makePart(
  part: EncodedPart,
  picture: PlannedPicture,
  scratch: string,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const { args, files } = encodePartCommand(part, picture, scratch);
  return withGraphFiles(files, () => ffmpeg(args, { durationUs: part.durationUs, onProgress, signal }));
}

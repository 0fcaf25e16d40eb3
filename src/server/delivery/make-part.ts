import { PassThrough } from 'node:stream';
import { encodePartCommand } from '@/core/commands/encode-part';
import type { EncodedPart } from '@/core/deliver/picture-part';
import type { PlannedPicture } from '@/core/deliver/planned-picture';
import { ffmpeg } from '../media/ffmpeg';
import { type JudgedPicture, openJudge } from './compare';
import { withGraphFiles } from './graph-files';
import { together } from './together';

/**
 * Composes and encodes one stretch of a picture track, and looks at some of its pictures meanwhile: filters and encoder leave some of the
 * processors.
 * @returns how clear they are
 */
export function makePart(
  part: EncodedPart,
  picture: PlannedPicture,
  scratch: string,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<JudgedPicture[]> {
  const { args, files } = encodePartCommand(part, picture, scratch);
  const { durationUs } = part;
  return withGraphFiles(files, async () => {
    if (part.compared.frames.length === 0) {
      await ffmpeg(args, { durationUs, onProgress, signal });
      return [];
    }
    const packets = new PassThrough();
    const judge = openJudge(part, picture, scratch);
    try {
      await together(signal, [
        (own) => ffmpeg(args, { durationUs, onProgress, signal: own, packets }),
        (own) => judge.look(packets, own),
      ]);
      return await judge.end();
    } finally {
      await judge.close();
    }
  });
}

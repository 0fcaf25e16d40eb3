import { copyFile } from 'node:fs/promises';
import type { Destination } from '@/core/destination';
import type { PicturePart, PlannedFile } from '@/core/render/plan';
import { ffmpeg } from '../media/ffmpeg';
import { joinParts } from './join';
import { makePart } from './parts';
import { makeSound } from './sound';

const FORMATS = { mp4: 'mp4', mov: 'mov', matroska: 'matroska' } as const;

/**
 * Makes one file of a plan, all of it in the scratch folder.
 * @param onProgress share of the work, 0…1
 * @returns the finished file
 */
export async function makePlannedFile(
  file: PlannedFile,
  destination: Destination,
  scratch: string,
  onProgress: (step: string, share: number) => void,
  signal: AbortSignal,
): Promise<string> {
  const path = `${scratch}/${file.name}.${file.extension}`;
  const { picture, sound } = file;
  const soundPath = sound ? `${scratch}/${file.name}-sound.${picture ? 'm4a' : file.extension}` : null;
  if (picture) await makePictures(picture.parts, onProgress, signal);
  if (sound && soundPath) {
    onProgress('Mixing and levelling the sound', 0.93);
    // Encoded sound that stands in a container of its own goes by its name; PCM needs one that takes it.
    const own = picture && destination.sound.codec !== 'aac' ? soundPath.replace(/m4a$/, 'mkv') : soundPath;
    await makeSound(sound, own, signal);
    if (!picture) return own;
    await muxed(picture, own);
  } else await muxed(picture, null);
  return path;

  async function muxed(planned: PlannedFile['picture'], soundFile: string | null): Promise<void> {
    if (!planned) return;
    onProgress('Putting it together', 0.97);
    const [only] = planned.parts;
    let pictures = only?.path ?? '';
    if (planned.parts.length > 1 || only?.kind === 'copy') {
      pictures = `${scratch}/${file.name}-joined.mp4`;
      await joinParts(planned.parts, planned.rate, pictures, signal);
    }
    await ffmpeg(
      [
        ...['-i', pictures, ...(soundFile ? ['-i', soundFile] : [])],
        ...['-map', '0:v', ...(soundFile ? ['-map', '1:a'] : []), '-c', 'copy', '-map_metadata', '-1'],
        ...(destination.fastStart ? ['-movflags', '+faststart'] : []),
        ...['-f', FORMATS[destination.container], path],
      ],
      { signal },
    );
  }
}

async function makePictures(
  parts: readonly PicturePart[],
  onProgress: (step: string, share: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const frames = parts.reduce((sum, part) => sum + (part.kind === 'encode' ? part.frames : 0), 0);
  let before = 0;
  for (const part of parts) {
    if (part.kind === 'copy') continue;
    // ffmpeg tells how long what it wrote is; only shares of a part's own frames are used.
    const lengthUs = part.frames * 1e6;
    await makePart(
      part,
      lengthUs,
      (share) => onProgress('Encoding the picture', (0.92 * (before + share * part.frames)) / frames),
      signal,
    );
    before += part.frames;
    onProgress('Encoding the picture', (0.92 * before) / frames);
  }
}

/** Takes a finished file as it is. */
export async function takeAsItIs(from: string, file: PlannedFile, scratch: string): Promise<string> {
  const path = `${scratch}/${file.name}.${file.extension}`;
  await copyFile(from, path);
  return path;
}

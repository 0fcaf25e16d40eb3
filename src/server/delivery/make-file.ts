import { copyFile, writeFile } from 'node:fs/promises';
import { filmPath } from '@/core/commands/encode-part';
import { chaptersText } from '@/core/cut/chapters';
import type { EncodedPart } from '@/core/deliver/picture-part';
import type { PlannedFile } from '@/core/deliver/plan';
import type { PlannedPicture } from '@/core/deliver/planned-picture';
import { madeCodec } from '@/core/deliver/quality';
import type { Destination } from '@/core/destination/destination';
import { ffmpeg } from '../media/ffmpeg';
import type { JudgedPicture } from './compare';
import { joinParts } from './join';
import { makePart } from './make-part';
import { makeSound } from './sound';
import { eachOf, together } from './together';

const FORMATS = { mp4: 'mp4', mov: 'mov', matroska: 'matroska' } as const;

/** A finished file, and how clear some of its encoded pictures are. */
export type MadeFile = { path: string; judged: JudgedPicture[] };

/** The sound that lies in a scratch folder already, by its path: how it was planned. */
export type MadeSounds = Map<string, string>;

/**
 * Makes one file of a plan, all of it in the scratch folder.
 * @param onProgress share of the work, 0…1
 * @returns the finished file, and how clear some of its encoded pictures are
 */
export async function makePlannedFile(
  file: PlannedFile,
  destination: Destination,
  scratch: string,
  sounds: MadeSounds,
  onProgress: (step: string, share: number) => void,
  signal: AbortSignal,
): Promise<MadeFile> {
  const path = `${scratch}/${file.name}.${file.extension}`;
  const { picture, sound } = file;
  let judged: JudgedPicture[] = [];
  // AAC in a container that keeps what its encoder put before the first sample; Matroska for all others.
  const beside = `${scratch}/${file.name}-sound.${destination.sound.codec === 'aac' ? 'm4a' : 'mkv'}`;
  const soundPath = sound && (picture ? beside : path);
  // Side by side: what the sound does one step after another, an encoder of pictures leaves a core for now and then.
  await together(signal, [
    async (own) => {
      if (picture) judged = await makePictures(picture, scratch, onProgress, own);
      onProgress('Mixing and levelling the sound', 0.93);
    },
    async (own) => {
      const planned = JSON.stringify(sound);
      // A picture that is tried again has the same sound, unless its frame rate moved the cuts.
      if (!sound || !soundPath || sounds.get(soundPath) === planned) return;
      await makeSound(sound, soundPath, own);
      sounds.set(soundPath, planned);
    },
  ]);
  if (!picture) return { path, judged };
  onProgress('Putting it together', 0.97);
  const [only] = picture.parts;
  let pictures = only ? filmPath(only, scratch) : '';
  if (picture.parts.length > 1 || only?.kind === 'copy') {
    pictures = `${scratch}/${file.name}-joined.mp4`;
    await joinParts(picture.parts, picture.rate, scratch, pictures, signal);
  }
  const chapters = file.chapters.length > 0 ? `${scratch}/${file.name}.chapters` : null;
  if (chapters) await writeFile(chapters, chaptersText(file.chapters));
  await ffmpeg(
    [
      // Copied sound begins with a whole frame of its codec, up to a fiftieth of a second after the first picture, and stays there.
      ...(sound?.copied ? ['-copyts'] : []),
      ...['-i', pictures, ...(soundPath ? ['-i', soundPath] : [])],
      ...(chapters ? ['-f', 'ffmetadata', '-i', chapters, '-map_chapters', soundPath ? '2' : '1'] : []),
      ...['-map', '0:v', ...(soundPath ? ['-map', '1:a'] : []), '-c', 'copy'],
      // Nothing of what went in, but for the names of the chapters.
      ...['-map_metadata:g', '-1', '-map_metadata:s', '-1'],
      ...(destination.fastStart ? ['-movflags', '+faststart'] : []),
      ...['-f', FORMATS[destination.container], path],
    ],
    { signal },
  );
  return { path, judged };
}

/**
 * Filters are one thread of their process: while those of one part are at work, the encoder of another has what they leave. SVT-AV1 alone takes
 * every core, and much memory.
 */
const partsAtOnce = (parts: readonly EncodedPart[]): number =>
  parts.some(({ encoder }) => 'destination' in encoder && madeCodec(encoder.destination) === 'av1') ? 1 : 2;

async function makePictures(
  picture: PlannedPicture,
  scratch: string,
  onProgress: (step: string, share: number) => void,
  signal: AbortSignal,
): Promise<JudgedPicture[]> {
  const parts = picture.parts.filter((part) => part.kind === 'encode');
  const frames = parts.reduce((sum, part) => sum + part.frames, 0);
  const judged: JudgedPicture[] = [];
  const made = new Map<EncodedPart, number>();
  const tell = (part: EncodedPart, share: number) => {
    made.set(part, share * part.frames);
    const soFar = [...made.values()].reduce((sum, each) => sum + each, 0);
    onProgress('Encoding the picture', (0.92 * soFar) / frames);
  };
  await eachOf(parts, partsAtOnce(parts), signal, async (part, own) => {
    judged.push(...(await makePart(part, picture, scratch, (share) => tell(part, share), own)));
    tell(part, 1);
  });
  return judged;
}

/** Takes a finished file as it is. */
export async function takeAsItIs(from: string, file: PlannedFile, scratch: string): Promise<MadeFile> {
  const path = `${scratch}/${file.name}.${file.extension}`;
  await copyFile(from, path);
  return { path, judged: [] };
}

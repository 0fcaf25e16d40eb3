import type { FrameRate } from '../base/rational';
import { firstVoice, type Rig } from '../rig/rig';

/** In the place of a browser: what a take says of where it comes from. */
export const FROM_A_FILE = 'imported from a file';

/** What a file that is brought into a lesson can be. */
export type FileKind = 'pdf' | 'svg' | 'still' | 'media';

const starts = (bytes: Uint8Array, text: string, at = 0): boolean =>
  [...text].every((character, i) => bytes[at + i] === character.charCodeAt(0));

/**
 * What a file is, from its first bytes; its name says nothing. What is no picture and no document is for ffmpeg to recognize.
 * @param head at least the first 1 kB
 */
export function fileKind(head: Uint8Array): FileKind {
  if (starts(head, '%PDF-')) return 'pdf';
  if (starts(head, '\x89PNG') || starts(head, '\xff\xd8\xff')) return 'still';
  if (starts(head, 'RIFF') && starts(head, 'WEBP', 8)) return 'still';
  const text = new TextDecoder().decode(head).trimStart();
  return /^(<\?xml|<!--|<svg|<!DOCTYPE svg)/.test(text) && text.includes('<svg') ? 'svg' : 'media';
}

/** What a drawing must not have: it would run something, or fetch something from elsewhere. */
const DANGEROUS: [RegExp, string][] = [
  [/<\s*script/i, 'a script'],
  [/<!ENTITY/i, 'an entity declaration'],
  [/\bon[a-z]+\s*=/i, 'an event handler'],
  [/(href|src)\s*=\s*["']?\s*(?!#|data:image\/)[^"'\s>]/i, 'a reference to another file'],
  [/@import|url\(\s*["']?(?!#|data:image\/)/i, 'a reference to another file'],
  [/<\s*foreignObject/i, 'foreign content'],
];

/** Why an SVG is refused, as the end of a sentence; null when nothing speaks against it. */
export const svgDanger = (text: string): string | null =>
  DANGEROUS.find(([pattern]) => pattern.test(text))?.[1] ?? null;

/** How a take is called that comes from a file: by its name, without its ending. */
export const broughtTitle = (name: string): string =>
  name
    .replace(/\.[A-Za-z0-9]{1,5}$/, '')
    .replaceAll(/[\p{C}]/gu, '')
    .trim()
    .slice(0, 200) || 'Imported file';

/**
 * The rig of a take that was not recorded here: what the lesson records with, less what is not in the file, and nothing done to the sound.
 * @param rate of its pictures; null where it has none
 */
export function broughtRig(
  lesson: Rig,
  has: { picture: boolean; sound: boolean },
  rate: FrameRate | null,
): Rig {
  const { picture } = lesson;
  const source = has.picture
    ? picture.source.from === 'none'
      ? ({ from: 'screen', meant: 'display' } as const)
      : picture.source
    : ({ from: 'none' } as const);
  return {
    ...lesson,
    picture: {
      ...picture,
      source,
      aim: 'whole',
      speed: { num: 1, den: 1 },
      frameRate: rate ?? picture.frameRate,
    },
    camera: null,
    voice: has.sound ? firstVoice(lesson.voice?.source ?? { from: 'practice', id: 'voice' }) : null,
    appSound: null,
    afterStop: 'open-take',
  };
}

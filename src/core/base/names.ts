/** Device names that one family of systems reserves, whatever their extension. */
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)$/i;
const LONGEST_BYTES = 120;
/** What some file system or program cannot have in a name: control and invisible characters, and signs with a meaning of their own. */
const UNSAFE = /[\p{Cc}\p{Cf}\p{Cs}\p{Co}<>:"/\\|?*]/gu;

/**
 * A file name that is safe on every file system, made of free text. Characters of any script stay.
 * @param text a title, for example a lesson's
 * @param extension without the dot
 * @returns at most 120 UTF-8 bytes before the extension; never empty, never a reserved device name
 */
export function fileName(text: string, extension: string): string {
  const cleaned = text.normalize('NFC').replace(UNSAFE, ' ').replace(/\s+/gu, ' ').trim();
  let base = '';
  let bytes = 0;
  for (const character of cleaned) {
    bytes += new TextEncoder().encode(character).length;
    if (bytes > LONGEST_BYTES) break;
    base += character;
  }
  base = base.replace(/^[. ]+|[. ]+$/g, '');
  if (base === '') base = 'untitled';
  if (RESERVED.test(base.split('.')[0] ?? '')) base = `${base.split('.')[0]} file`;
  return `${base}.${extension}`;
}

/** What `fileName` has to change in a text beyond its spaces, in words; nothing when it is safe as it is. */
export function nameChanges(text: string): string[] {
  const unsafe = [...new Set(text.normalize('NFC').match(UNSAFE) ?? [])];
  const shown = unsafe.filter((sign) => !/[\p{Cc}\p{Cf}\p{Cs}\p{Co}]/u.test(sign));
  return [
    ...(shown.length > 0 ? [`the ${shown.length === 1 ? 'sign' : 'signs'} ${shown.join(' ')}`] : []),
    ...(unsafe.length > shown.length ? ['an invisible character'] : []),
    ...(RESERVED.test(text.trim().split('.')[0] ?? '')
      ? [`the reserved word “${text.trim().split('.')[0]}”`]
      : []),
    ...(new TextEncoder().encode(text.trim()).length > LONGEST_BYTES
      ? [`more than ${LONGEST_BYTES} bytes`]
      : []),
  ];
}

/** The same name for the second and every further file that is called so: "Seeds (2).mp4". @param n from 1 */
export function numberedName(name: string, n: number): string {
  if (n === 1) return name;
  const dot = name.lastIndexOf('.');
  return dot <= 0 ? `${name} (${n})` : `${name.slice(0, dot)} (${n})${name.slice(dot)}`;
}

/** What a name pattern may speak of, each word in braces. */
export const NAME_WORDS = ['lesson', 'take', 'date', 'time', 'size', 'rig'] as const;
export type NameFacts = Record<(typeof NAME_WORDS)[number], string>;

/** Nothing but the free text of a pattern. */
export const NO_NAME_FACTS = Object.fromEntries(NAME_WORDS.map((word) => [word, 'x'])) as NameFacts;

const WORD = /\{([^{}]*)\}/g;

/** Words in braces that mean nothing; none when the pattern is good. */
export const unknownWords = (pattern: string): string[] =>
  [...pattern.matchAll(WORD)]
    .map(([, word = '']) => word)
    .filter((word) => !NAME_WORDS.some((known) => known === word));

/** A pattern with its words filled in: free text that `fileName` makes safe. What is not known is left out. */
export const fillPattern = (pattern: string, facts: NameFacts): string =>
  pattern.replace(WORD, (_, word: string) => facts[word as keyof NameFacts] ?? '');

/** Day and time of an instant as they stand in file names, in the time zone of whoever asks: "2026-05-04" and "16.20". */
export function nameMoment(at: Date): { date: string; time: string } {
  const two = (n: number) => String(n).padStart(2, '0');
  return {
    date: `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`,
    time: `${two(at.getHours())}.${two(at.getMinutes())}`,
  };
}

/** Device names that one family of systems reserves, whatever their extension. */
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)$/i;
const LONGEST_BYTES = 120;

/**
 * A file name that is safe on every file system, made of free text. Letters of any script stay.
 * @param text a title, for example a lesson's
 * @param extension without the dot
 * @returns at most 120 UTF-8 bytes before the extension; never empty, never a reserved device name
 */
export function fileName(text: string, extension: string): string {
  const cleaned = text
    .normalize('NFC')
    .replace(/[\p{Cc}\p{Cf}\p{Cs}\p{Co}<>:"/\\|?*]/gu, ' ')
    .replace(/\s+/gu, ' ')
    .trim();
  let base = '';
  let bytes = 0;
  for (const letter of cleaned) {
    bytes += new TextEncoder().encode(letter).length;
    if (bytes > LONGEST_BYTES) break;
    base += letter;
  }
  base = base.replace(/^[. ]+|[. ]+$/g, '');
  if (base === '') base = 'untitled';
  if (RESERVED.test(base.split('.')[0] ?? '')) base = `${base.split('.')[0]} file`;
  return `${base}.${extension}`;
}

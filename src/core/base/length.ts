import { clockText } from './figures';

/** The longest take that a limit can be set to, seconds: a day. */
export const MOST_LENGTH_S = 86_400;

/** A length that somebody chose, in words and to the second: "6 s", "1 min 30 s", "2 h", "1 h 0 min 5 s". */
export function lengthText(seconds: number): string {
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  const parts = [
    h > 0 && `${h} h`,
    (m > 0 || (h > 0 && s > 0)) && `${m} min`,
    (s > 0 || seconds === 0) && `${s} s`,
  ];
  return parts.filter(Boolean).join(' ');
}

/** The same as it is typed: "0:06", "1:30", "2:00:00". */
export const typedLength = (seconds: number): string => clockText(seconds * 1e6);

/**
 * Reads a length that was typed as `m:ss`, `h:mm:ss` or in seconds.
 * @returns whole seconds from 1 to `MOST_LENGTH_S`; null for anything else
 */
export function readLength(text: string): number | null {
  const [, h = '0', m = '0', s = ''] = /^(?:(?:(\d{1,2}):)?(\d{1,3}):)?(\d{1,5})$/.exec(text.trim()) ?? [];
  if (s === '') return null;
  // Beside minutes, seconds are two digits up to 59; so are minutes beside hours.
  const parted = text.includes(':');
  if (parted && !/^[0-5]\d$/.test(s)) return null;
  if (h !== '0' && !/^[0-5]\d$/.test(m)) return null;
  const seconds = Number(h) * 3600 + Number(m) * 60 + Number(s);
  return seconds >= 1 && seconds <= MOST_LENGTH_S ? seconds : null;
}

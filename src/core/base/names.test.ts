import fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  fileName,
  fillPattern,
  NAME_WORDS,
  nameChanges,
  nameMoment,
  numberedName,
  unknownWords,
} from './names';

const anyText = fc.oneof(
  fc.string({ unit: 'binary', maxLength: 200 }),
  fc.constantFrom('CON', 'lpt1.txt', '...', ' . ', 'Seeds/2027', 'a\u202eb', '\u0000', '豆の種まき'),
);
/** What some file system or program refuses, written down apart from the code. */
const REFUSED = /[<>:"/\\|?*\p{Cc}]/u;

it('is safe on every file system, whatever the text', () => {
  fc.assert(
    fc.property(anyText, (text) => {
      const name = fileName(text, 'mp4');
      const base = name.slice(0, -4);
      expect(name.endsWith('.mp4')).toBe(true);
      expect(base).not.toBe('');
      expect(base).not.toMatch(REFUSED);
      expect(base).not.toMatch(/^[. ]|[. ]$/);
      expect(base.split('.')[0]).not.toMatch(/^(con|prn|aux|nul|com\d|lpt\d)$/i);
      expect(Buffer.byteLength(base)).toBeLessThanOrEqual(126);
    }),
    { numRuns: 500 },
  );
});

it('changes nothing of a name that is safe, and says what it changed of one that is not', () => {
  fc.assert(
    fc.property(anyText, (text) => {
      const name = fileName(text, 'mp4');
      expect(fileName(name.slice(0, -4), 'mp4')).toBe(name);
      expect(nameChanges(name.slice(0, -4))).toEqual([]);
    }),
    { numRuns: 500 },
  );
  expect(nameChanges('Seeds: spring/autumn')).toEqual(['the signs : /']);
  expect(nameChanges('aux')).toEqual(['the reserved word “aux”']);
});

it('numbers names before their extension, and never the same twice', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('Seeds.mp4', 'Seeds', '.mp4', 'a.b.c'),
      fc.integer({ min: 1, max: 40 }),
      (name, most) => {
        const names = Array.from({ length: most }, (_, i) => numberedName(name, i + 1));
        expect(new Set(names).size).toBe(most);
        expect(names[0]).toBe(name);
      },
    ),
  );
  expect(numberedName('Seeds.mp4', 2)).toBe('Seeds (2).mp4');
});

it('fills in exactly the words that it knows', () => {
  const facts = Object.fromEntries(NAME_WORDS.map((word) => [word, `<${word}>`])) as Parameters<
    typeof fillPattern
  >[1];
  fc.assert(
    fc.property(
      fc.array(fc.oneof(fc.constantFrom(...NAME_WORDS), fc.constantFrom('lesso', '', 'Lesson'))),
      (words) => {
        const pattern = words.map((word) => `{${word}}`).join(', ');
        const known = words.map((word) => (NAME_WORDS.some((one) => one === word) ? `<${word}>` : ''));
        expect(fillPattern(pattern, facts)).toBe(known.join(', '));
        expect(unknownWords(pattern)).toEqual(
          words.filter((word) => !NAME_WORDS.some((one) => one === word)),
        );
      },
    ),
  );
  expect(nameMoment(new Date(2027, 2, 4, 6, 5))).toEqual({ date: '2027-03-04', time: '06.05' });
});

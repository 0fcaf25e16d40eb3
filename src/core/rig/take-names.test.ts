import fc from 'fast-check';
import { expect, it } from 'vitest';
import { fileName, NAME_WORDS } from '../base/names';
import { freeName } from './named-rig';
import { propose } from './purposes';
import { PRACTICE_RIG, PurposeKind } from './rig';
import { takeFileName } from './take-names';

it('names the files of a take by its pattern, safe for any title', () => {
  const title = fc.string({ unit: 'binary', maxLength: 60 });
  fc.assert(
    fc.property(
      fc.subarray([...NAME_WORDS], { minLength: 1 }),
      title,
      title,
      fc.constantFrom(...PurposeKind.options),
      (words, lesson, take, kind) => {
        const { rig } = propose({ kind, machine: 'strong' }, PRACTICE_RIG);
        const names = { ...rig.names, pattern: words.map((word) => `{${word}}`).join(' ') };
        const name = takeFileName({
          ...{ rig: { ...rig, names }, lesson, take, startedAt: new Date(2027, 2, 4, 6, 5) },
          picture: { width: 1280, height: 720 },
        });
        if (words.includes('date')) expect(name).toContain('2027-03-04');
        if (words.includes('size')) expect(name).toContain('1280×720');
        expect(fileName(name, 'mkv')).toMatch(/^[^/\\:*?"<>|]+\.mkv$/);
      },
    ),
  );
});

it('finds a name that nobody has, next to the one that was wanted', () => {
  const word = fc.constantFrom('Lesson', 'lesson', 'Lesson 2', 'Lesson 3', 'Seeds', 'Lesson 10');
  fc.assert(
    fc.property(word, fc.array(word, { maxLength: 12 }), (wanted, taken) => {
      const free = freeName(wanted, taken);
      expect(taken.map((name) => name.toLowerCase())).not.toContain(free.toLowerCase());
      const isTaken = taken.some((name) => name.toLowerCase() === wanted.toLowerCase());
      expect(free === wanted).toBe(!isTaken);
      expect(free.replace(/ \d+$/, '')).toBe(wanted.replace(/ \d+$/, ''));
    }),
  );
});

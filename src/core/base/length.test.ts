import fc from 'fast-check';
import { expect, it } from 'vitest';
import { lengthText, MOST_LENGTH_S, readLength, typedLength } from './length';

const lengths = fc.integer({ min: 1, max: MOST_LENGTH_S });

it('reads every length as it is written, with blanks around it, and in plain seconds', () => {
  fc.assert(
    fc.property(lengths, (seconds) => {
      expect(readLength(typedLength(seconds))).toBe(seconds);
      expect(readLength(` ${typedLength(seconds)} `)).toBe(seconds);
      expect(readLength(String(seconds))).toBe(seconds);
    }),
  );
});

it('refuses what is no length, nothing at all and more than a day', () => {
  for (const text of ['', '0', '0:00', '1:60', '1:5', ':30', '1:', '-3', '1.5', 'ten', '1:00:5', '1:70:00'])
    expect(readLength(text), text).toBeNull();
  expect(readLength(String(MOST_LENGTH_S + 1))).toBeNull();
  expect(readLength('24:00:01')).toBeNull();
});

it('says a length in words from which it can be read again', () => {
  expect([6, 60, 90, 3600, 3605, 7200].map(lengthText)).toEqual([
    '6 s',
    '1 min',
    '1 min 30 s',
    '1 h',
    '1 h 0 min 5 s',
    '2 h',
  ]);
  fc.assert(
    fc.property(lengths, (seconds) => {
      const units: Record<string, number> = { h: 3600, min: 60, s: 1 };
      const parts = [...lengthText(seconds).matchAll(/(\d+) (h|min|s)/g)];
      expect(parts.reduce((sum, [, n, unit]) => sum + Number(n) * (units[unit ?? ''] ?? 0), 0)).toBe(seconds);
    }),
  );
});

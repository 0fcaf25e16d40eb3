import fc from 'fast-check';
import { expect, it } from 'vitest';
import { FASTEST_SHUTTLE, shuttled } from './shuttle';

const keys = fc.array(fc.constantFrom('j' as const, 'k' as const, 'l' as const), { maxLength: 30 });
const after = (pressed: ('j' | 'k' | 'l')[]) => pressed.reduce(shuttled, 0);

it('doubles in one direction up to the fastest, and stays there', () => {
  expect(['l', 'l', 'l', 'l', 'l'].map((_, i) => after(Array(i + 1).fill('l')))).toEqual([1, 2, 4, 8, 8]);
  expect(after(Array(5).fill('j'))).toBe(-FASTEST_SHUTTLE);
});

it('stops by K and turns round by the other key, whatever was pressed before', () => {
  fc.assert(
    fc.property(keys, (pressed) => {
      const speed = after(pressed);
      expect(Math.abs(speed)).toBeLessThanOrEqual(FASTEST_SHUTTLE);
      expect(shuttled(speed, 'k')).toBe(0);
      expect(shuttled(Math.min(0, speed), 'l')).toBe(1);
      expect(shuttled(Math.max(0, speed), 'j')).toBe(-1);
    }),
  );
});

it('names nothing outside itself, so that its source alone computes the same', () => {
  const alone = new Function(`return ${shuttled.toString()}`)() as typeof shuttled;
  fc.assert(
    fc.property(keys, (pressed) => {
      expect(pressed.reduce(alone, 0)).toBe(after(pressed));
    }),
  );
});

import fc from 'fast-check';
import { expect, it } from 'vitest';
import { placeChunk, silenceUntil, startSoundLine } from './sound-line';

const CHUNK = 480;

it('writes an unbroken line from 0: late start, jitter, a gap, a chunk before the start', () => {
  let line = startSoundLine(48_000);
  const put = (tUs: number) => {
    const placed = placeChunk(line, tUs, CHUNK);
    line = placed.line;
    return [placed.silence, placed.leaveOut];
  };
  expect(put(-20_000)).toEqual([0, CHUNK]);
  expect(put(-5_000)).toEqual([0, 240]);
  expect(put(5_000)).toEqual([0, 0]);
  expect(put(22_000)).toEqual([0, 0]); // 7 ms late: jitter
  expect(put(125_000)).toEqual([100 * 48, 0]); // 100 ms are missing
  expect(line.placed).toBe(240 + 480 + 480 + 4800 + 480);
  expect(silenceUntil(line, 200_000)).toBe(9600 - line.placed);
});

it('mends a shift that stays, though each chunk was within what is tolerated', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 8_000, max: 24_000 }),
      fc.array(fc.integer({ min: -2_000, max: 2_000 }), { minLength: 300, maxLength: 300 }),
      (shiftUs, jitters) => {
        let line = startSoundLine(48_000);
        let inserted = 0;
        jitters.forEach((jitter, i) => {
          const placed = placeChunk(line, i * 10_000 + (i < 50 ? 0 : shiftUs) + jitter, CHUNK);
          line = placed.line;
          inserted += i < 50 ? 0 : placed.silence - placed.leaveOut;
        });
        expect(Math.abs((inserted * 1000) / 48 - shiftUs)).toBeLessThanOrEqual(4_500);
      },
    ),
  );
});

it('stays within the tolerance of the times it was given', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -29_000, max: 29_000 }), { minLength: 1, maxLength: 100 }),
      (jitters) => {
        let line = startSoundLine(48_000);
        let heard = 0;
        jitters.forEach((jitter, i) => {
          const placed = placeChunk(line, i * 10_000 + (i === 0 ? 0 : jitter), CHUNK);
          line = placed.line;
          heard += CHUNK - placed.leaveOut;
        });
        expect(heard).toBe(jitters.length * CHUNK);
        expect(line.placed).toBe(heard);
      },
    ),
  );
});

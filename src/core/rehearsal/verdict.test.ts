import { expect, it } from 'vitest';
import { rehearsed, slowEncoder } from '../../../tests/support/made-up-rehearsal';
import { frameAt, framesFor, LOST, traceOf } from '../../../tests/support/made-up-trace';
import { frameText } from './frame-text';
import { rehearsalVerdict } from './verdict';

it('says that all is well, with what was dropped nevertheless', () => {
  expect(rehearsalVerdict(rehearsed())).toEqual({
    ...{ kind: 'good', sentence: 'This machine records this rig at 30 fps.', detail: 'No dropped frames.' },
  });
  const one = traceOf({
    frames: framesFor(10, 30, (_, n) => (n === 90 ? { ...LOST, fate: 'dropped' } : {})),
  });
  expect(rehearsalVerdict(rehearsed({ trace: one })).detail).toBe('1 of 270 frames dropped: too few to see.');
});

it('tells losses of the first second apart from the rest', () => {
  const frames = framesFor(10, 30, (tS) => (tS < 0.5 ? { ...LOST, fate: 'dropped' } : {}));
  expect(rehearsalVerdict(rehearsed({ trace: traceOf({ frames }) }))).toMatchObject({
    kind: 'good',
    detail: 'No dropped frames. In the first second, 15 frames were dropped: wait a moment before you start.',
  });
});

it('names the stage and the figures, in the same numbers as the ledger', () => {
  const of = rehearsed({ trace: slowEncoder(45) });
  const { kind, sentence, detail } = rehearsalVerdict(of);
  expect(kind).toBe('stop');
  expect(sentence).toBe(`The encoder cannot sustain 30 fps: ${of.figures.dropped} of 270 frames dropped.`);
  expect(detail).toContain('Encoding takes 45 ms/frame');
});

it('asks for another rehearsal where nothing moved', () => {
  const still = traceOf({ frames: [frameAt(0, { key: true })], durationUs: 10_000_000 });
  expect(rehearsalVerdict(rehearsed({ trace: still }))).toMatchObject({
    kind: 'warn',
    sentence: 'This says little: hardly anything moved.',
  });
});

it('tells a second fault after the first', () => {
  const frames = framesFor(12, 30, (tS, n) =>
    tS >= 2 && tS < 6
      ? n % 2 === 0
        ? { ...LOST, fate: 'dropped' }
        : { encodeMs: 60 }
      : tS >= 7 && tS < 11 && n % 4 === 0
        ? { ...LOST, fate: 'missed' }
        : {},
  );
  const { sentence, detail } = rehearsalVerdict(rehearsed({ trace: traceOf({ frames }) }));
  expect(sentence).toMatch(/^The encoder cannot sustain/);
  expect(detail).toContain('The source is too slow as well.');
});

it('reads a frame out in one line', () => {
  const late = frameAt(7_030_000, { encodeMs: 42.5, bytes: 96_000 });
  expect(frameText(late, 210, 1000 / 30)).toBe('Frame 211 at 7.03 s, late: 43 of 33 ms, 96 kB');
  expect(frameText({ ...late, ...LOST, fate: 'missed' }, 0, 33)).toBe('Frame 1 at 7.03 s, not delivered');
});

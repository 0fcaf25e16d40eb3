import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plainCut } from '../../../tests/support/made-up';
import { newTakeId } from '../base/ids';
import { cutLengthUs } from './cut';
import { NO_HAND } from './hand';
import { accept, gainedUs, type HeardTake, proposals, USUAL_TIGHTENING } from './proposals';

const id = newTakeId();
const MS = 1000;
const PER_SECOND = 100;

/** A take in which somebody speaks from one time to another, in ms. */
function spoken(
  durationMs: number,
  spans: readonly (readonly [number, number])[],
  marksMs: number[] = [],
): HeardTake {
  const values = Array.from({ length: (durationMs * PER_SECOND) / 1000 }, (_, i) => {
    const ms = (i * 1000) / PER_SECOND;
    return spans.some(([from, to]) => from <= ms && ms < to) ? 120 : 1;
  });
  return {
    id,
    durationUs: durationMs * MS,
    voice: { perSecond: PER_SECOND, values },
    marksUs: marksMs.map((ms) => ms * MS),
    still: [],
    hand: NO_HAND,
  };
}

const whole = ({ durationUs }: HeardTake) => plainCut(id, [{ take: id, inUs: 0, outUs: durationUs }]);
const inMs = (take: HeardTake, cut = whole(take)) =>
  proposals(cut, [take]).map(({ kind, fromUs, toUs }) => [kind, fromUs / MS, toUs / MS]);

describe('proposals', () => {
  it('are the head, the tail, and long pauses but for what is left of them', () => {
    const take = spoken(20_000, [
      [3000, 6000],
      [6800, 9000],
      [12_000, 15_000],
    ]);
    expect(inMs(take)).toEqual([
      ['head', 0, 2650],
      ['pause', 9250, 11_750],
      ['tail', 15_600, 20_000],
    ]);
  });

  it('go from a mark back to the pause before its sentence, and on to where the speech is taken up again', () => {
    const take = spoken(
      20_000,
      [
        [500, 3000],
        // The sentence that was stumbled over, with a short break in it, and the mark after it.
        [4000, 5000],
        [5400, 6200],
        [7500, 12_000],
        [12_600, 19_800],
      ],
      [6900],
    );
    expect(inMs(take)).toEqual([['stumble', 3850, 7350]]);
    // While speech goes on nothing after the mark is left out.
    const speaking = spoken(
      10_000,
      [
        [300, 4000],
        [5000, 9500],
      ],
      [6000],
    );
    expect(inMs(speaking)).toEqual([['stumble', 4850, 6000]]);
  });

  it('are none where nobody is heard, and none of a stretch that the cut does not show', () => {
    const silent = { ...spoken(20_000, []), voice: null };
    expect(inMs(silent)).toEqual([]);
    const take = spoken(
      20_000,
      [
        [1000, 6000],
        [9000, 19_500],
      ],
      [12_000],
    );
    const part = plainCut(id, [{ take: id, inUs: 1_000_000, outUs: 5_000_000 }]);
    expect(inMs(take, part)).toEqual([]);
  });

  it('play faster where little happens for long and nobody speaks, and cut what is shorter', () => {
    const quiet = {
      ...spoken(40_000, [
        [300, 6000],
        [9000, 10_000],
        [30_000, 39_800],
      ]),
      still: [{ startUs: 5_000_000, endUs: 29_000_000 }],
    };
    const found = proposals(whole(quiet), [quiet]);
    expect(found.map(({ kind, fromUs, toUs }) => [kind, fromUs / MS, toUs / MS])).toEqual([
      ['pause', 6250, 8750],
      ['still', 10_150, 29_000],
    ]);
    const [, still] = found;
    expect(still).toMatchObject({ kind: 'still', speed: 8 });
    const next = accept(whole(quiet), found);
    expect(next.steps.map(({ speed }) => speed)).toEqual([1, 8, 1]);
    expect(cutLengthUs(next)).toBe(40_000_000 - found.reduce((sum, one) => sum + gainedUs(one), 0));
    // What plays at a speed of its own is left as it is.
    expect(proposals(next, [quiet])).toEqual([]);
  });

  it('never overlap; accepting all of them shortens by what they say, and leaves no pause to propose', () => {
    const Speech = fc.array(
      fc.record({ gap: fc.integer({ min: 310, max: 4000 }), length: fc.integer({ min: 300, max: 3000 }) }),
      { minLength: 1, maxLength: 12 },
    );
    fc.assert(
      fc.property(
        Speech,
        fc.array(fc.integer({ min: 0, max: 60_000 }), { maxLength: 3 }),
        (speech, marks) => {
          let ms = 0;
          const spans = speech.map(({ gap, length }) => {
            const from = Math.round((ms + gap) / 10) * 10;
            ms = from + Math.round(length / 10) * 10;
            return [from, ms] as const;
          });
          const take = spoken(
            ms + 2000,
            spans,
            marks.filter((mark) => mark < ms + 2000),
          );
          const cut = whole(take);
          const all = proposals(cut, [take]);
          all.forEach(({ fromUs, toUs }, i) => {
            expect(fromUs).toBeLessThan(toUs);
            expect(fromUs).toBeGreaterThanOrEqual(all[i - 1]?.toUs ?? 0);
          });
          const goneUs = all.reduce((sum, { fromUs, toUs }) => sum + toUs - fromUs, 0);
          if (goneUs >= cutLengthUs(cut)) return;
          const next = accept(cut, all);
          expect(cutLengthUs(next)).toBe(cutLengthUs(cut) - goneUs);
          expect(proposals(next, [take]).filter(({ kind }) => kind === 'pause')).toEqual([]);
          // Of each pause that is too long so much is left as was asked.
          for (const { fromUs, toUs } of all.filter(({ kind }) => kind === 'pause'))
            expect(toUs - fromUs).toBeGreaterThan(USUAL_TIGHTENING.overUs - USUAL_TIGHTENING.leaveUs);
        },
      ),
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutWithTakes } from '../../../tests/support/made-up';
import { newStepId } from '../base/ids';
import { Cut, cutLengthUs, seenIn } from './cut';
import { describeChange } from './describe-change';
import { moveEnd } from './edits';
import {
  addMark,
  type Mark,
  marksOf,
  markTitle,
  moveMark,
  placedMarks,
  removeMark,
  renameMark,
} from './marks';

/** Cuts of takes with marks, some of them set twice at once. */
const cuts = cutWithTakes.map(({ cut, takes }) => ({
  takes,
  // Each step has an id of its own, as in a lesson.
  cut: { ...cut, steps: cut.steps.map((step) => ({ ...step, id: newStepId() })) },
}));
const marked = cuts.chain(({ cut, takes }) =>
  fc.record({
    cut: fc.constant(cut),
    takes: fc.tuple(
      ...takes.map(({ id, durationUs }) =>
        fc.record({
          id: fc.constant(id),
          durationUs: fc.constant(durationUs),
          marksUs: fc.array(fc.integer({ min: 0, max: Math.max(0, durationUs - 1) }), { maxLength: 4 }),
        }),
      ),
    ),
  }),
);
const first = (cut: Cut, takes: readonly { id: Mark['take']; marksUs: readonly number[] }[]) =>
  takes.flatMap((take) => marksOf(cut, take))[0];

describe('marks of the takes', () => {
  it('are where they were recorded until somebody changes them, each once', () => {
    fc.assert(
      fc.property(marked, ({ cut, takes }) => {
        for (const take of takes)
          expect(marksOf(cut, take).map(({ atUs }) => atUs)).toEqual(
            [...new Set(take.marksUs)].sort((a, b) => a - b),
          );
      }),
    );
  });

  it('are moved, named and removed one by one; the take, the video and the others stay as they are', () => {
    fc.assert(
      fc.property(marked, fc.integer({ min: -9e6, max: 9e6 }), ({ cut, takes }, byUs) => {
        const mark = first(cut, takes);
        if (!mark) return;
        const take = takes.find(({ id }) => id === mark.take);
        if (!take) throw new Error('The mark has a take.');
        const others = (now: Cut) =>
          takes
            .flatMap((each) => marksOf(now, each))
            .filter(({ take, setUs }) => take !== mark.take || setUs !== mark.setUs);
        const moved = moveMark(cut, mark, byUs);
        const [at] = marksOf(moved, take).filter(({ setUs }) => setUs === mark.setUs);
        const piece = seenIn(cut, mark.take, mark.atUs)?.piece;
        if (!piece || !at) {
          expect(moved).toBe(cut);
          return;
        }
        // It stays in the piece that shows it: nobody loses it by dragging.
        expect(at.atUs).toBe(Math.max(piece.inUs, Math.min(piece.outUs - 1, mark.atUs + byUs)));
        const named = renameMark(moved, at, 'Here it begins');
        expect(marksOf(named, take)).toContainEqual({ ...at, title: 'Here it begins' });
        // A mark that has a name keeps it when it is moved again.
        const again = marksOf(named, take).find(({ setUs }) => setUs === mark.setUs) ?? mark;
        expect(marksOf(moveMark(named, again, -byUs), take)).toContainEqual(
          expect.objectContaining({ setUs: mark.setUs, title: 'Here it begins' }),
        );
        const gone = removeMark(named, again);
        expect(marksOf(gone, take).some(({ setUs }) => setUs === mark.setUs)).toBe(false);
        for (const now of [moved, named, gone]) {
          expect(others(now)).toEqual(others(cut));
          expect(now.steps).toBe(cut.steps);
          expect(Cut.parse(JSON.parse(JSON.stringify(now)))).toEqual(now);
        }
        expect(describeChange(cut, gone)).toBe('Changed a mark');
      }),
    );
  });

  it('are added to what is seen at a place, and seen there; a second one at once is none', () => {
    fc.assert(
      fc.property(marked, fc.double({ min: 0, max: 1, noNaN: true }), ({ cut, takes }, share) => {
        const bare = takes.map((take) => ({ ...take, marksUs: [] }));
        const us = Math.floor(share * (cutLengthUs(cut) - 1));
        const next = addMark(cut, bare, us);
        if (next === cut) return;
        expect(next.marks).toHaveLength(1);
        const [mark] = placedMarks(next, bare);
        // A take that is shown twice has it where it is seen first.
        expect(mark && mark.us <= us + 8).toBe(true);
        expect(addMark(next, bare, us)).toBe(next);
      }),
    );
  });

  it('are called by their names, else by their places', () => {
    expect(markTitle({ title: '' }, 2)).toBe('Mark 3');
    expect(markTitle({ title: 'Germination' }, 2)).toBe('Germination');
  });
});

describe('the ends of any step', () => {
  it('are trimmed and opened again, within their take, and no other step changes', () => {
    fc.assert(
      fc.property(
        cuts,
        fc.nat(),
        fc.constantFrom('start' as const, 'end' as const),
        fc.integer({ min: -2e6, max: 40e6 }),
        ({ cut, takes }, n, end, takeUs) => {
          const step = cut.steps[n % cut.steps.length];
          const piece = step?.pieces.at(end === 'start' ? 0 : -1);
          const take = takes.find(({ id }) => id === piece?.take);
          if (!step || !piece || !take || piece.heldUs !== undefined) return;
          const next = moveEnd(cut, step.id, end, takeUs, take.durationUs);
          const now = next.steps.find(({ id }) => id === step.id)?.pieces.at(end === 'start' ? 0 : -1);
          expect(now?.inUs).toBeGreaterThanOrEqual(0);
          expect(now?.outUs).toBeLessThanOrEqual(Math.max(take.durationUs, (now?.inUs ?? 0) + 20_000));
          expect(next.steps.filter(({ id }) => id !== step.id)).toEqual(
            cut.steps.filter(({ id }) => id !== step.id),
          );
          expect(Cut.parse(next)).toEqual(next);
        },
      ),
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutWithTakes } from '../../../tests/support/made-up';
import { newStepId, newTakeId } from '../base/ids';
import { type Cut, cutLengthUs, placedPieces, type Step, stepLengthUs } from './cut';
import { remove } from './edits';
import { joinedPieces, type Piece } from './piece';
import {
  duplicateSteps,
  insertStep,
  joinSteps,
  moveSteps,
  pieceOfTake,
  removeSteps,
  replaceStep,
} from './whole-steps';

const cuts = cutWithTakes.map(
  ({ cut }): Cut => ({ ...cut, steps: cut.steps.map((step) => ({ ...step, id: newStepId() })) }),
);
const take = newTakeId();
const another: Piece = { take, inUs: 400_000, outUs: 2_900_000 };

/** A cut and a place in it, its ends as well. */
const places = cuts.chain((cut) =>
  fc.record({ cut: fc.constant(cut), us: fc.integer({ min: 0, max: cutLengthUs(cut) }) }),
);
/** A cut and one of its steps. */
const stepsOf = cuts.chain((cut) =>
  fc.record({ cut: fc.constant(cut), step: fc.constantFrom(...cut.steps) }),
);

const added = (like: Step): Step => ({ ...like, id: newStepId(), title: '', pieces: [another] });
const first = ({ steps }: Cut) => steps[0] as Step;
/** A video as stretches of takes; neighbours that go on are one. */
const seen = (cut: Cut): string[] =>
  joinedPieces(placedPieces(cut).map(({ piece }) => piece)).map(({ take: of, inUs, outUs, heldUs }) =>
    heldUs === undefined ? `${of} ${inUs} ${outUs}` : `${of} holds ${heldUs} for ${outUs - inUs}`,
  );

describe('whole steps', () => {
  it('are inserted at any place: lengths add up, the step lies there, and removing it gives the old video back', () => {
    fc.assert(
      fc.property(places, ({ cut, us }) => {
        const step = added(first(cut));
        const next = insertStep(cut, us, step, newStepId());
        const longerUs = stepLengthUs(step);
        // A step that is split at another speed than 1 is two, each of whole microseconds.
        const within = cut.steps.every(({ speed }) => speed === 1) ? 0 : 2;
        const near = (a: number, b: number) => expect(Math.abs(a - b)).toBeLessThanOrEqual(within);
        near(cutLengthUs(next), cutLengthUs(cut) + longerUs);
        const placed = placedPieces(next).find(({ piece }) => piece.take === take);
        if (!placed) throw new Error('The step is not there.');
        near(placed.startUs, us);
        expect(placed.endUs - placed.startUs).toBe(longerUs);
        expect(seen(remove(next, placed.startUs, placed.endUs))).toEqual(seen(cut));
        expect(new Set(next.steps.map(({ id }) => id)).size).toBe(next.steps.length);
      }),
    );
  });

  it('are duplicated right after themselves, without their name', () => {
    fc.assert(
      fc.property(stepsOf, ({ cut, step }) => {
        const next = duplicateSteps(cut, [step.id], newStepId);
        const copy = next.steps[next.steps.findIndex(({ id }) => id === step.id) + 1];
        expect(copy).toEqual({ ...step, id: copy?.id, title: '' });
        expect(cutLengthUs(next)).toBe(cutLengthUs(cut) + stepLengthUs(step));
      }),
    );
  });

  it('are moved, duplicated and joined several at once: in their order, and nothing else changes', () => {
    fc.assert(
      fc.property(cuts, fc.array(fc.nat(7), { minLength: 1, maxLength: 5 }), fc.nat(8), (cut, picked, at) => {
        const ids = cut.steps.filter((_, i) => picked.includes(i)).map(({ id }) => id);
        const others = cut.steps.filter(({ id }) => !ids.includes(id));
        expect(moveSteps(cut, [], null)).toBe(cut);
        if (ids.length === 0) return;
        const before = others[at]?.id ?? null;
        const moved = moveSteps(cut, ids, before);
        expect(moved.steps.filter(({ id }) => !ids.includes(id))).toEqual(others);
        const from = moved.steps.findIndex(({ id }) => id === ids[0]);
        expect(moved.steps.slice(from, from + ids.length).map(({ id }) => id)).toEqual(ids);
        expect(moved.steps[from + ids.length]?.id ?? null).toBe(before);

        // Before one of themselves is before the next that is not.
        const next = cut.steps
          .slice(cut.steps.findIndex(({ id }) => id === ids[0]))
          .find(({ id }) => !ids.includes(id));
        expect(moveSteps(cut, ids, ids[0] ?? null)).toEqual(moveSteps(cut, ids, next?.id ?? null));

        const doubled = duplicateSteps(cut, ids, newStepId);
        const after = doubled.steps.findLastIndex(({ id }) => ids.includes(id)) + 1;
        const bare = (steps: readonly Step[]) => steps.map(({ id: _, title: __, ...step }) => step);
        expect(bare(doubled.steps.slice(after, after + ids.length))).toEqual(
          bare(cut.steps.filter(({ id }) => ids.includes(id))),
        );
        expect(new Set(doubled.steps.map(({ id }) => id)).size).toBe(cut.steps.length + ids.length);

        // Each run of neighbours is one step; what stands alone stays.
        const runs = cut.steps.filter(
          ({ id }, i) => ids.includes(id) && !ids.includes(cut.steps[i - 1]?.id ?? id),
        ).length;
        const isFirst = ids.includes(cut.steps[0]?.id as Step['id']) ? 1 : 0;
        const joined = joinSteps(cut, ids);
        expect(joined.steps).toHaveLength(others.length + runs + isFirst);
        expect(seen(joined)).toEqual(seen(cut));
      }),
    );
  });

  it('are replaced in their place: everything but their pieces stays, and edits of others commute with it', () => {
    fc.assert(
      fc.property(stepsOf, ({ cut, step }) => {
        const next = replaceStep(cut, step.id, [another]);
        const rest = ({ steps }: Cut) =>
          steps.map(({ pieces: _, zooms: __, covers: ___, ...other }) => other);
        expect(rest(next)).toEqual(rest(cut));
        const again = next.steps.find(({ id }) => id === step.id);
        for (const { toUs } of [...(again?.zooms ?? []), ...(again?.covers ?? [])])
          expect(toUs).toBeLessThanOrEqual(another.outUs - another.inUs);
        const other = cut.steps.find(({ id }) => id !== step.id);
        if (!other) return;
        expect(removeSteps(next, [other.id])).toEqual(
          replaceStep(removeSteps(cut, [other.id]), step.id, [another]),
        );
        expect(moveSteps(next, [other.id], null)).toEqual(
          replaceStep(moveSteps(cut, [other.id], null), step.id, [another]),
        );
      }),
    );
  });

  it('are removed, several at once, and never all of them', () => {
    fc.assert(
      fc.property(cuts, (cut) => {
        const ids = cut.steps.map(({ id }) => id);
        expect(() => removeSteps(cut, ids)).toThrow('No step of the video would be left.');
        expect(removeSteps(cut, ids.slice(1)).steps).toEqual([first(cut)]);
        expect(removeSteps(cut, [])).toBe(cut);
      }),
    );
  });
});

it('a take is shown from its first word to its last, or whole where nothing is known', () => {
  const whole = { id: take, durationUs: 5_000_000 };
  expect(pieceOfTake(whole, null)).toEqual({ take, inUs: 0, outUs: 5_000_000 });
  expect(pieceOfTake(whole, { inUs: 400_000, outUs: 2_900_000 })).toEqual(another);
});

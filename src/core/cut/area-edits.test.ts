import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { area, cutWithTakes } from '../../../tests/support/made-up';
import { newStepId } from '../base/ids';
import { addCover, addZoom, changeCover, changeZoom, removeArea } from './area-edits';
import { at, Cut, cutLengthUs, type Step, stepTimeUs } from './cut';

const cuts = cutWithTakes.map(
  ({ cut }): Cut => ({ ...cut, steps: cut.steps.map((step) => ({ ...step, id: newStepId(), zooms: [] })) }),
);
const places = cuts.chain((cut) =>
  fc.record({ cut: fc.constant(cut), us: fc.integer({ min: 0, max: cutLengthUs(cut) }) }),
);
const time = fc.integer({ min: 0, max: 40_000_000 });

/** Zooms in order, none over another, all of them in their step: what the picture is made by. */
function expectInOrder({ zooms, ...step }: Step): void {
  let endUs = 0;
  for (const { fromUs, toUs } of zooms) {
    expect(fromUs).toBeGreaterThanOrEqual(endUs);
    expect(toUs).toBeGreaterThan(fromUs);
    endUs = toUs;
  }
  expect(endUs).toBeLessThanOrEqual(stepTimeUs(step));
}

/** Adds zooms at places until there is no room for one. */
function zoomed(cut: Cut, places: readonly number[]): Cut {
  return places.reduce((now, us) => {
    try {
      return addZoom(now, us % (cutLengthUs(cut) + 1));
    } catch (error) {
      expect(error).toMatchObject({ problem: { code: 'no-room' } });
      return now;
    }
  }, cut);
}

describe('zooms', () => {
  it('are added where the playhead is, and never over one another, however many', () => {
    fc.assert(
      fc.property(cuts, fc.array(time, { maxLength: 8 }), (cut, places) => {
        const next = zoomed(cut, places);
        for (const step of next.steps) expectInOrder(step);
        expect(Cut.parse(next)).toEqual(next);
      }),
    );
  });

  it('stay in order, apart and inside, wherever their ends are moved to', () => {
    fc.assert(
      fc.property(
        cuts,
        fc.array(time, { minLength: 1, maxLength: 6 }),
        fc.array(fc.tuple(fc.nat(5), fc.boolean(), time, area), { maxLength: 8 }),
        (cut, places, moves) => {
          const [step] = zoomed(cut, places).steps;
          if (!step) return;
          let now: Cut = { version: 4, marks: [], steps: [step] };
          for (const [index, isStart, us, area] of moves)
            now = changeZoom(now, step.id, index, isStart ? { fromUs: us } : { toUs: us, area });
          const [after] = now.steps;
          expect(after?.zooms.length).toBe(step.zooms.length);
          if (after) expectInOrder(after);
        },
      ),
    );
  });
});

describe('covers', () => {
  it('begin where the playhead is and hide to the end: what was private a moment ago is private still', () => {
    fc.assert(
      fc.property(places, ({ cut, us }) => {
        const { step, hereUs } = at(cut, us);
        const after = addCover(cut, us, 'blur').steps.find(({ id }) => id === step.id);
        const added = after?.covers.find((cover) => !step.covers.includes(cover));
        expect(added?.toUs).toBe(stepTimeUs(step));
        expect(added?.fromUs).toBeLessThanOrEqual(hereUs);
        expect(after?.covers.length).toBe(step.covers.length + 1);
      }),
    );
  });

  it('never leave their step, and are gone when they are removed', () => {
    fc.assert(
      fc.property(places, time, time, ({ cut, us }, fromUs, toUs) => {
        const { step } = at(cut, us);
        const one = addCover({ version: 4, marks: [], steps: [{ ...step, covers: [] }] }, 0, 'colour');
        const moved = changeCover(changeCover(one, step.id, 0, { fromUs }), step.id, 0, { toUs });
        const [cover] = moved.steps[0]?.covers ?? [];
        expect(cover?.fromUs).toBeGreaterThanOrEqual(0);
        expect(cover?.toUs).toBeLessThanOrEqual(stepTimeUs(step));
        expect(cover?.toUs).toBeGreaterThan(cover?.fromUs ?? 0);
        expect(removeArea(moved, step.id, 'covers', 0).steps[0]?.covers).toEqual([]);
      }),
    );
  });
});

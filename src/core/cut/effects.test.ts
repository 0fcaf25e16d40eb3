import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutWithTakes, plainCut } from '../../../tests/support/made-up';
import { newStepId, newTakeId, type StepId } from '../base/ids';
import type { Span } from './area';
import {
  at,
  Cut,
  cutLengthUs,
  PLAIN_STEP,
  placedSteps,
  type Step,
  shownAt,
  stepLengthUs,
  stepTimeAt,
  stepTimeUs,
  whereSeen,
} from './cut';
import { changeStep, hold, join, remove, split } from './edits';
import { FLAT } from './envelope';
import { duplicateSteps } from './whole-steps';

const cuts = cutWithTakes.map(
  ({ cut }): Cut => ({ ...cut, steps: cut.steps.map((step) => ({ ...step, id: newStepId() })) }),
);
const places = cuts.chain((cut) =>
  fc.record({ cut: fc.constant(cut), us: fc.integer({ min: 0, max: cutLengthUs(cut) }) }),
);
const total = (spans: readonly Span[]) => spans.reduce((sum, { fromUs, toUs }) => sum + toUs - fromUs, 0);
const whole = (step: Step | undefined) => step as Step;

describe('a step at another speed', () => {
  it('is shorter by just that, but for the pictures that are held', () => {
    fc.assert(
      fc.property(cuts, fc.constantFrom(0.25, 0.5, 1, 2, 8), (cut, speed) => {
        const step = whole(cut.steps[0]);
        const faster = whole(changeStep(cut, step.id, { speed }).steps[0]);
        const held = (pieces: Step['pieces']) =>
          pieces
            .filter(({ heldUs }) => heldUs !== undefined)
            .reduce((sum, { inUs, outUs }) => sum + outUs - inUs, 0);
        const playedUs = stepTimeUs(step) - held(step.pieces);
        const off = stepLengthUs(faster) - held(step.pieces) - playedUs / speed;
        expect(Math.abs(off)).toBeLessThanOrEqual(step.pieces.length);
      }),
    );
  });

  it('finds the time of a step from a place of the video and back', () => {
    fc.assert(
      fc.property(places, ({ cut, us }) => {
        const { step, hereUs, startUs } = at(cut, us);
        const placed = placedSteps(cut).find((each) => each.step === step);
        if (!placed) throw new Error('The step is not there.');
        expect(Math.abs(stepTimeAt(step, us - placed.startUs) - hereUs)).toBeLessThanOrEqual(1);
        // A µs of the step is less than one of the video at a slow speed, and more at a quick one.
        expect(Math.abs(placed.startUs + shownAt(step, hereUs) - us)).toBeLessThanOrEqual(
          Math.ceil(1 / Math.min(1, step.speed)),
        );
        expect(startUs).toBeLessThanOrEqual(us);
      }),
    );
  });

  it('shows the last instant of a quick piece in it, not in the one that follows', () => {
    const [take, other] = [newTakeId(), newTakeId()];
    const quick = plainCut(take, [{ take, inUs: 0, outUs: 5_000_000 }]);
    const next = plainCut(other, [{ take: other, inUs: 0, outUs: 5_000_000 }]);
    const cut = { ...quick, steps: [{ ...whole(quick.steps[0]), speed: 2 }, whole(next.steps[0])] };
    const seenUs = whereSeen(cut, take, 4_999_999) ?? -1;
    expect(at(cut, seenUs).piece.take).toBe(take);
    expect(at(cut, seenUs + 1).piece.take).toBe(other);
  });

  it('shows an instant of a take where it is said to be seen', () => {
    fc.assert(
      fc.property(places, ({ cut, us }) => {
        const here = at(cut, us);
        if (here.piece.heldUs !== undefined || here.takeUs >= here.piece.outUs) return;
        const seenUs = whereSeen(cut, here.piece.take, here.takeUs);
        expect(seenUs).not.toBeNull();
        // It may be seen earlier as well.
        expect(seenUs ?? 0).toBeLessThanOrEqual(us + 4);
        expect(Math.abs(at(cut, seenUs ?? 0).takeUs - here.takeUs)).toBeLessThanOrEqual(8);
      }),
    );
  });
});

describe('a picture that is held', () => {
  it('makes the video longer by its length, stands where it was asked for, and shows what was there', () => {
    fc.assert(
      fc.property(places, fc.integer({ min: 40_000, max: 9_000_000 }), ({ cut, us }, lengthUs) => {
        const before = at(cut, us);
        const next = hold(cut, us, lengthUs);
        const within = cut.steps.every(({ speed }) => speed === 1) ? 0 : 4;
        expect(Math.abs(cutLengthUs(next) - cutLengthUs(cut) - lengthUs)).toBeLessThanOrEqual(within);
        const middle = at(next, us + Math.round(lengthUs / 2));
        expect(middle.piece.heldUs).toBeDefined();
        expect(Math.abs(middle.takeUs - before.takeUs)).toBeLessThanOrEqual(1);
        expect(next.steps.map(({ id }) => id)).toEqual(cut.steps.map(({ id }) => id));
      }),
    );
  });

  it('is covered where its picture was: nobody sees by it what was hidden', () => {
    fc.assert(
      fc.property(places, ({ cut, us }) => {
        const before = at(cut, us);
        const hidden = ({ step, hereUs }: ReturnType<typeof at>) => {
          const seenUs = Math.min(hereUs, stepTimeUs(step) - 1);
          return step.covers.filter(({ fromUs, toUs }) => fromUs <= seenUs && seenUs < toUs).length;
        };
        const held = hold(cut, us, 1_000_000);
        for (const share of [0.01, 0.5, 0.99])
          expect(hidden(at(held, us + Math.round(share * 1_000_000)))).toBe(hidden(before));
      }),
    );
  });

  it('is one with its neighbour when it is split and joined again', () => {
    fc.assert(
      fc.property(places, ({ cut, us }) => {
        const held = hold(cut, us, 2_000_000);
        const id = newStepId();
        const parted = split(held, us + 1_000_000, id);
        if (parted === held) return;
        const again = join(parted, id);
        expect(Math.abs(cutLengthUs(again) - cutLengthUs(held))).toBeLessThanOrEqual(4);
        expect(again.steps.length).toBe(held.steps.length);
      }),
    );
  });
});

describe('zooms and covers', () => {
  it('stay over their pictures when a step is split and joined: none is lost, and none grows', () => {
    fc.assert(
      fc.property(places, ({ cut, us }) => {
        const id = newStepId();
        const parted = split(cut, us, id);
        const seen = (of: Cut) =>
          of.steps.map((step) => [
            Math.min(total(step.covers), stepTimeUs(step)),
            step.covers.filter(({ fromUs }) => fromUs < stepTimeUs(step)).length,
          ]);
        if (parted === cut) return;
        for (const step of parted.steps)
          if (step.id === id)
            for (const { toUs } of step.covers) expect(toUs).toBeLessThanOrEqual(stepTimeUs(step));
        const again = join(parted, id);
        const trimmed = {
          ...cut,
          steps: cut.steps.map((step) => ({
            ...step,
            covers: step.covers.flatMap((one) =>
              one.fromUs < stepTimeUs(step) ? [{ ...one, toUs: Math.min(one.toUs, stepTimeUs(step)) }] : [],
            ),
          })),
        };
        const index = parted.steps.findIndex((step) => step.id === id) - 1;
        expect(seen(again)[index]).toEqual(seen(trimmed)[index]);
      }),
    );
  });

  it('lose as much time as is taken out of them', () => {
    const area = { x: 0, y: 0, width: 0.5, height: 0.5 };
    const step: Step = {
      ...PLAIN_STEP,
      ...{ id: newStepId(), title: '', pieces: [{ take: newTakeId(), inUs: 0, outUs: 10_000_000 }] },
      ...{ layout: { kind: 'screen' }, gains: { voiceDb: 0, appSoundDb: 0 } },
      covers: [{ fromUs: 2_000_000, toUs: 6_000_000, area, kind: 'blur' }],
    };
    const cut: Cut = { version: 4, marks: [], steps: [step] };
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 9_000_000 }),
        fc.integer({ min: 1, max: 1_000_000 }),
        (from, length) => {
          const after = whole(remove(cut, from, from + length).steps[0]);
          const goneUs = Math.max(0, Math.min(6_000_000, from + length) - Math.max(2_000_000, from));
          expect(total(after.covers)).toBe(4_000_000 - goneUs);
          expect(after.covers.length).toBe(1);
        },
      ),
    );
  });
});

it('changes of different steps come to the same in any order, and a change of nothing is none', () => {
  fc.assert(
    fc.property(cuts, (cut) => {
      const [a, b] = cut.steps;
      if (!a || !b) return;
      const fast = (of: Cut) => changeStep(of, a.id, { speed: 4, note: 'boring' });
      const soft = (of: Cut) => changeStep(of, b.id, { entry: { kind: 'dissolve', lengthUs: 400_000 } });
      expect(fast(soft(cut))).toEqual(soft(fast(cut)));
      expect(changeStep(cut, 'nobody' as StepId, { speed: 2 })).toEqual(cut);
    }),
  );
});

it('a copy has everything but the name', () => {
  fc.assert(
    fc.property(cuts, (cut) => {
      const step = whole(cut.steps[0]);
      const copy = duplicateSteps(cut, [step.id], newStepId).steps[1];
      expect({ ...copy, id: step.id, title: step.title }).toEqual(step);
    }),
  );
});

it('every cut that can be made is one that can be kept', () => {
  fc.assert(
    fc.property(cuts, (cut) => {
      expect(Cut.parse(JSON.parse(JSON.stringify(cut)))).toEqual(cut);
    }),
  );
});

it('a cut of version 2 is the same video now: as recorded, at once, at its own speed', () => {
  fc.assert(
    fc.property(cuts, (cut) => {
      const two = {
        version: 2,
        steps: cut.steps.map(({ id, title, pieces, layout, gains }) => ({
          ...{ id, title, layout, gains },
          pieces: pieces.map(({ take, inUs, outUs }) => ({ take, inUs, outUs })),
        })),
      };
      const { steps } = Cut.parse(two);
      expect(
        steps.every(({ speed, entry, zooms }) => speed === 1 && entry === null && zooms.length === 0),
      ).toBe(true);
      expect(
        steps.map(({ id, title, pieces, layout, gains }) => ({ id, title, pieces, layout, gains })),
      ).toEqual(
        two.steps.map(({ id, title, pieces, layout, gains }) => ({ id, title, pieces, layout, gains })),
      );
    }),
  );
});

it('a cut of version 3 is the same now, with envelopes that move nothing', () => {
  fc.assert(
    fc.property(cuts, (cut) => {
      const flat = cut.steps.map((step) => ({ ...step, envelopes: FLAT }));
      const three = { ...cut, version: 3, steps: flat.map(({ envelopes: _, ...step }) => step) };
      expect(Cut.parse(three)).toEqual({ ...cut, steps: flat });
    }),
  );
});

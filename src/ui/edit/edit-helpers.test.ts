import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newStepId, newTakeId } from '@/core/base/ids';
import { type Cut, cutLengthUs, placedPieces, placedSteps } from '@/core/cut/cut';
import { takesOf } from '@/core/cut/describe-change';
import type { TrackKind } from '@/core/recording/take';
import { PRACTICE_RIG } from '@/core/rig/rig';
import type { EditPage } from '@/core/views/edit-page';
import { cutWithTakes } from '../../../tests/support/made-up';
import { bandRuns, stepOfRun } from './band-runs';
import { effectSpans } from './effect-spans';
import { nearestJoint } from './play-joint';
import { snapped } from './snap';
import { lanesOf, type Recorded } from './strip-lanes';
import { cutToDrawOn } from './use-areas';
import { insertSteps, stepsOf } from './use-brought';

const cuts = cutWithTakes.map(
  ({ cut }): Cut => ({ ...cut, steps: cut.steps.map((step) => ({ ...step, id: newStepId() })) }),
);

describe('effects on the strip', () => {
  it('lies inside the video, each of it somewhere', () => {
    fc.assert(
      fc.property(cuts, (cut) => {
        const lengthUs = cutLengthUs(cut);
        for (const { fromUs, toUs, name } of effectSpans(cut)) {
          expect(fromUs).toBeGreaterThanOrEqual(0);
          expect(toUs).toBeLessThanOrEqual(lengthUs + 1);
          expect(fromUs).toBeLessThanOrEqual(toUs);
          expect(name).toMatch(/^(Zoom|Cover|Held frame|Transition), \d+:\d\d to \d+:\d\d$/);
        }
        const held = placedPieces(cut).filter(({ piece }) => piece.heldUs !== undefined);
        expect(effectSpans(cut).filter(({ kind }) => kind === 'held').length).toBe(held.length);
      }),
    );
  });
});

describe('the band of steps', () => {
  const zooms = fc.double({ min: 1, max: 400, noNaN: true });
  it('has every step once and in order: long ones each for itself, short ones together', () => {
    fc.assert(
      fc.property(cuts, zooms, (cut, zoom) => {
        const [steps, lengthUs] = [placedSteps(cut), cutLengthUs(cut)];
        const runs = bandRuns(steps, lengthUs, zoom);
        expect(runs.flatMap((run) => run.steps)).toEqual(steps);
        runs.forEach((run, i) => {
          expect(run.steps.length).toBeGreaterThan(0);
          if (run.isNamed) expect(run.steps).toHaveLength(1);
          else expect(runs[i + 1]?.isNamed ?? true).toBe(true);
          for (const { startUs, endUs } of run.steps)
            expect((endUs - startUs) * zoom >= 0.02 * lengthUs).toBe(run.isNamed);
        });
      }),
    );
  });

  it('leads from a place of a run to the step that lies there, and from its ends to its first and last', () => {
    fc.assert(
      fc.property(cuts, fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }), (cut, share) => {
        const steps = placedSteps(cut);
        const run = { isNamed: false, steps };
        const us = share * cutLengthUs(cut);
        const found = stepOfRun(run, share);
        expect(found?.startUs).toBeLessThanOrEqual(us);
        expect(found?.endUs).toBeGreaterThan(us);
        expect(stepOfRun(run, -0.1)).toBe(steps.find(({ endUs }) => endUs > 0));
        expect(stepOfRun(run, 1)).toBe(steps.at(-1));
      }),
    );
  });
});

it('the nearest joint is one, and none is nearer', () => {
  fc.assert(
    fc.property(cuts, fc.nat(60_000_000), (cut, us) => {
      const joints = placedPieces(cut)
        .slice(1)
        .map(({ startUs }) => startUs);
      const nearest = nearestJoint(cut, us);
      if (joints.length === 0) expect(nearest).toBeNull();
      else {
        expect(joints).toContain(nearest);
        for (const joint of joints)
          expect(Math.abs(joint - us)).toBeGreaterThanOrEqual(Math.abs((nearest ?? 0) - us));
      }
    }),
  );
});

it('a handle jumps to the nearest place within reach, and to none beyond', () => {
  const places = fc.array(fc.nat(10_000), { maxLength: 8 });
  fc.assert(
    fc.property(fc.nat(10_000), places, fc.nat(500), (us, points, withinUs) => {
      const to = snapped(us, points, withinUs);
      const reach = points.filter((point) => Math.abs(point - us) <= withinUs);
      if (reach.length === 0) expect(to).toBe(us);
      else expect(Math.abs(to - us)).toBe(Math.min(...reach.map((point) => Math.abs(point - us))));
    }),
  );
});

it('while an area is drawn all of the screen is seen, without this area, and every other step stays as it is', () => {
  fc.assert(
    fc.property(cuts, fc.nat(2), (cut, index) => {
      const [first, ...others] = cut.steps;
      if (!first) return;
      const [drawn, ...rest] = cutToDrawOn(cut, { step: first.id, what: 'covers', index }).steps;
      expect(rest).toEqual(others);
      expect([drawn?.layout, drawn?.zooms]).toEqual([{ kind: 'screen' }, []]);
      expect(drawn?.covers).toEqual(first.covers.filter((_, i) => i !== index));
      expect(drawn?.pieces).toEqual(first.pieces);
    }),
  );
});

describe('what a file becomes', () => {
  const take = {
    ...{ id: newTakeId(), title: 'Sowing plan', durationUs: 3_000_000, rig: PRACTICE_RIG },
  } as EditPage['takes'][number];

  it('slides are steps of their own, each held on its own page, and named for it', () => {
    const steps = stepsOf(take, 3);
    expect(steps.map(({ title }) => title)).toEqual(['Sowing plan, 1', 'Sowing plan, 2', 'Sowing plan, 3']);
    expect(steps.map(({ pieces }) => Math.floor((pieces[0]?.heldUs ?? 0) / 1e6))).toEqual([0, 1, 2]);
    expect(stepsOf(take, 1).map(({ title }) => title)).toEqual(['Sowing plan']);
    expect(stepsOf(take, 0)[0]?.pieces).toEqual([{ take: take.id, inUs: 0, outUs: 3_000_000 }]);
  });

  it('comes in where the playhead was, in order, and makes the video longer by just that', () => {
    fc.assert(
      fc.property(cuts, fc.nat(1000), (cut, share) => {
        const plain = { ...cut, steps: cut.steps.map((step) => ({ ...step, speed: 1 })) };
        const us = Math.floor((cutLengthUs(plain) * share) / 1000);
        const steps = stepsOf(take, 2);
        const next = insertSteps(plain, us, steps);
        const added = placedPieces(next).filter(({ piece }) => piece.take === take.id);
        expect(added.map(({ startUs }) => startUs)).toEqual([us, us + 5_000_000]);
        expect(cutLengthUs(next)).toBe(cutLengthUs(plain) + 10_000_000);
      }),
    );
  });
});

describe('the lanes of the strip', () => {
  const recorded = (kinds: readonly TrackKind[], cut: Cut): Recorded => ({
    peaks: new Map(),
    tracks: new Map([...takesOf(cut)].map((take) => [take, new Set(kinds)])),
  });
  it('lie one below the other without a gap, and a picture has one only where some step shows it', () => {
    const kinds = fc.subarray(['screen', 'camera', 'voice'] as const);
    fc.assert(
      fc.property(cuts, kinds, (cut, tracks) => {
        const of = recorded(tracks, cut);
        const { lanes, height } = lanesOf(cut, of);
        let top = 0;
        for (const lane of lanes) {
          expect(lane.top).toBe(top);
          top += lane.height;
        }
        expect(height).toBe(top);
        const names = lanes.map(({ track }) => track);
        const shows = (is: (kind: string) => boolean) => cut.steps.some(({ layout }) => is(layout.kind));
        expect(names.includes('screen')).toBe(
          tracks.includes('screen') && shows((kind) => kind !== 'camera'),
        );
        expect(names.includes('camera')).toBe(
          tracks.includes('camera') && shows((kind) => kind !== 'screen'),
        );
        expect(names.slice(-2)).toEqual(['voice', 'app-sound']);
      }),
    );
  });
});

import type { StepId } from '../base/ids';
import { ProblemError } from '../base/problem';
import type { Layout } from '../layout/layout-kinds';
import { type Cover, spansBetween, spansLater, type Zoom } from './area';
import { at, type Cut, cutLengthUs, type Gains, placedSteps, type Step, stepTimeAt, stepTimeUs } from './cut';
import { eachSound, envelopeBetween } from './envelope';
import type { Piece } from './piece';
import { appended, partOfStep, withoutPart, withPiece } from './step-part';

/**
 * Edits are functions from cut to cut: they change nothing, so that undoing is going back to the cut before. Places are µs of
 * the video. An edit that changes nothing returns the very cut it was given.
 */

/** Changes every step; one of which nothing is left goes. */
function mapSteps(cut: Cut, change: (step: Step, startUs: number, endUs: number) => Step | null): Cut {
  const steps = placedSteps(cut).flatMap(({ step, startUs, endUs }) => change(step, startUs, endUs) ?? []);
  if (steps.length === 0)
    throw new ProblemError({
      code: 'empty-cut',
      message: 'Nothing of the video would be left.',
      hint: 'Leave a part of it, or delete the lesson.',
    });
  return { ...cut, steps };
}

function checkRange(cut: Cut, fromUs: number, toUs: number): void {
  if (!(fromUs >= 0 && fromUs < toUs && toUs <= cutLengthUs(cut)))
    throw new RangeError(`There is nothing from ${fromUs} to ${toUs} µs in this cut.`);
}

/**
 * Takes a part out; what comes after it moves up.
 * @throws {ProblemError} `empty-cut` when it is all there is
 */
export function remove(cut: Cut, fromUs: number, toUs: number): Cut {
  checkRange(cut, fromUs, toUs);
  return mapSteps(cut, (step, startUs, endUs) =>
    fromUs >= endUs || toUs <= startUs
      ? step
      : withoutPart(step, stepTimeAt(step, fromUs - startUs), stepTimeAt(step, toUs - startUs)),
  );
}

/** Keeps only a part: trims both ends at once. */
export function keep(cut: Cut, fromUs: number, toUs: number): Cut {
  checkRange(cut, fromUs, toUs);
  if (fromUs === 0 && toUs === cutLengthUs(cut)) return cut;
  return mapSteps(cut, (step, startUs) =>
    partOfStep(step, stepTimeAt(step, fromUs - startUs), stepTimeAt(step, toUs - startUs)),
  );
}

/** Whether a place lies inside a step: at a border there is nothing to split. @param placed the steps of a cut in their places */
export const canSplit = (placed: ReturnType<typeof placedSteps>, us: number): boolean =>
  placed.some(({ startUs, endUs }) => startUs < us && us < endUs);

/** Makes two steps of the one that is seen at a place; the second gets the new id. */
export function split(cut: Cut, us: number, newId: StepId): Cut {
  const steps = placedSteps(cut).flatMap(({ step, startUs, endUs }) => {
    if (!canSplit([{ step, startUs, endUs }], us)) return [step];
    const hereUs = stepTimeAt(step, us - startUs);
    const [first, second] = [partOfStep(step, 0, hereUs), partOfStep(step, hereUs, stepTimeUs(step))];
    return first && second ? [first, { ...second, id: newId, title: '', note: '' }] : [step];
  });
  return steps.length === cut.steps.length ? cut : { ...cut, steps };
}

/** Joins a step to the one before it, whose layout, speed and title it takes. The first has none before it. */
export function join(cut: Cut, id: StepId): Cut {
  const index = cut.steps.findIndex((step) => step.id === id);
  const [before, step] = [cut.steps[index - 1], cut.steps[index]];
  if (!before || !step) return cut;
  const steps = [...cut.steps.slice(0, index - 1), appended(before, step), ...cut.steps.slice(index + 1)];
  return { ...cut, steps };
}

/**
 * Moves where a step begins or ends in its take, also outwards, over what was trimmed before; what comes after it moves along.
 * @param takeUs on the clock of the take at that end
 * @param takeLengthUs length of that take: an end cannot lie beyond it
 */
export function moveEnd(
  cut: Cut,
  id: StepId,
  end: 'start' | 'end',
  takeUs: number,
  takeLengthUs: number,
): Cut {
  const step = cut.steps.find((each) => each.id === id);
  const piece = step?.pieces.at(end === 'start' ? 0 : -1);
  if (!step || !piece) return cut;
  const mostUs = piece.heldUs === undefined ? takeLengthUs : piece.inUs + MOST_HELD_US;
  const moved =
    end === 'start'
      ? { ...piece, inUs: Math.max(0, Math.min(takeUs, piece.outUs - LEAST_US)) }
      : { ...piece, outUs: Math.min(mostUs, Math.max(takeUs, piece.inUs + LEAST_US)) };
  const pieces = step.pieces.map((each) => (each === piece ? moved : each));
  // What is zoomed and covered stays over the same pictures, and the envelope over the same sounds.
  const byUs = end === 'start' ? piece.inUs - moved.inUs : 0;
  const lengthUs = stepTimeUs({ pieces });
  const kept = <T extends Zoom | Cover>(spans: readonly T[]): T[] =>
    byUs < 0
      ? spansBetween(spans, -byUs, lengthUs - byUs)
      : spansBetween(spansLater(spans, byUs), 0, lengthUs);
  const envelopes = eachSound(step.envelopes, (points) =>
    byUs > 0
      ? points.map((point) => ({ ...point, atUs: point.atUs + byUs }))
      : envelopeBetween(points, -byUs, lengthUs - byUs),
  );
  return changeStep(cut, step.id, {
    ...{ pieces, envelopes },
    ...{ zooms: kept(step.zooms), covers: kept(step.covers) },
  });
}

/** Shorter than a frame of 60 per second, nothing is seen. */
const LEAST_US = 20_000;
/** A picture can be held for so long. */
export const MOST_HELD_US = 600_000_000;

/** Changes what a step is beside its pieces. Changes of different steps come to the same in any order. */
export function changeStep(cut: Cut, id: StepId, change: Partial<Omit<Step, 'id'>>): Cut {
  return { ...cut, steps: cut.steps.map((step) => (step.id === id ? { ...step, ...change } : step)) };
}

export const setLayout = (cut: Cut, id: StepId, layout: Layout): Cut => changeStep(cut, id, { layout });
export const setGains = (cut: Cut, id: StepId, gains: Gains): Cut => changeStep(cut, id, { gains });
export const setTitle = (cut: Cut, id: StepId, title: string): Cut =>
  changeStep(cut, id, { title: title.slice(0, 200) });

/**
 * Holds the picture at a place for a while, without sound; what comes after it moves back.
 * @param us 0 … length of the cut
 */
export function hold(cut: Cut, us: number, lengthUs: number): Cut {
  const { step, piece, takeUs, hereUs } = at(cut, us);
  // At the very end of a piece nothing is shown: its last picture is held.
  const heldUs = Math.max(0, Math.min(takeUs, piece.heldUs ?? piece.outUs - 1));
  const held: Piece = { take: piece.take, heldUs, inUs: heldUs, outUs: heldUs + lengthUs };
  return { ...cut, steps: cut.steps.map((each) => (each === step ? withPiece(each, hereUs, held) : each)) };
}

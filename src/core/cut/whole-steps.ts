import type { StepId, TakeId } from '../base/ids';
import { ProblemError } from '../base/problem';
import { type Cut, type Piece, placedSteps, type Step } from './cut';
import { split } from './edits';

/** Edits that add, order, replace and remove whole steps; like the others they change nothing and return a cut. */

/**
 * Puts a step where a place of the video is: between two steps, or into the middle of one, which is split there.
 * @param us 0 … length of the cut; the very end puts it last
 * @param restId of the second half of a step that is split
 */
export function insertStep(cut: Cut, us: number, step: Step, restId: StepId): Cut {
  const parted = split(cut, us, restId);
  const index = placedSteps(parted).findIndex(({ startUs }) => startUs >= us);
  const before = index < 0 ? parted.steps.length : index;
  return { ...parted, steps: [...parted.steps.slice(0, before), step, ...parted.steps.slice(before)] };
}

/** Puts a copy of a step right after it; it has no name of its own yet. */
export function duplicateStep(cut: Cut, id: StepId, newId: StepId): Cut {
  return {
    ...cut,
    steps: cut.steps.flatMap((step) => (step.id === id ? [step, { ...step, id: newId, title: '' }] : [step])),
  };
}

/**
 * Removes steps; what comes after them moves up.
 * @throws {ProblemError} `empty-cut` when none would be left
 */
export function removeSteps(cut: Cut, ids: readonly StepId[]): Cut {
  const steps = cut.steps.filter(({ id }) => !ids.includes(id));
  if (steps.length === 0)
    throw new ProblemError({
      code: 'empty-cut',
      message: 'No step of the video would be left.',
      hint: 'Keep one, or delete the lesson.',
    });
  return steps.length === cut.steps.length ? cut : { ...cut, steps };
}

/** Shows other pieces in a step's place: a take of it that was recorded again. Title, layout and sound levels stay. */
export const replaceStep = (cut: Cut, id: StepId, pieces: Piece[]): Cut => ({
  ...cut,
  steps: cut.steps.map((step) => (step.id === id ? { ...step, pieces } : step)),
});

/** Puts a step before another; null: at the end. */
export function moveStep(cut: Cut, id: StepId, before: StepId | null): Cut {
  const step = cut.steps.find((each) => each.id === id);
  if (!step || id === before) return cut;
  const others = cut.steps.filter((each) => each.id !== id);
  const index = before === null ? others.length : others.findIndex((each) => each.id === before);
  if (index < 0) return cut;
  return { ...cut, steps: [...others.slice(0, index), step, ...others.slice(index)] };
}

/**
 * The stretch of a take that is worth showing.
 * @param trimmed as `headsAndTails` found it; null shows all of it
 */
export const pieceOfTake = (
  take: { id: TakeId; durationUs: number | null },
  trimmed: { inUs: number; outUs: number } | null,
): Piece => ({ take: take.id, inUs: 0, outUs: Math.max(1, take.durationUs ?? 0), ...trimmed });

import type { StepId, TakeId } from '../base/ids';
import { ProblemError } from '../base/problem';
import { spansBetween } from './area';
import { type Cut, placedSteps, type Step, stepTimeUs } from './cut';
import { join, split } from './edits';
import type { Piece } from './piece';

/** Edits that add, order, replace and remove whole steps; like the others they change nothing and return a cut. */

/**
 * Puts a step where a place of the video is: between two steps, or into the middle of one, which is split there.
 * @param us 0 … length of the cut; the very end puts it last
 * @param restId of the second half of a step that is split
 */
export function insertStep(cut: Cut, us: number, step: Step, restId: StepId): Cut {
  const parted = split(cut, us, restId);
  const before = parted === cut ? borderAt(cut, us) : parted.steps.findIndex(({ id }) => id === restId);
  return { ...parted, steps: [...parted.steps.slice(0, before), step, ...parted.steps.slice(before)] };
}

/** Before which step a border of the video lies: the nearest. */
function borderAt(cut: Cut, us: number): number {
  const after = placedSteps(cut).findIndex(({ startUs, endUs }) => us < startUs + (endUs - startUs) / 2);
  return after < 0 ? cut.steps.length : after;
}

/** Puts copies of steps, in their order, right after the last of them; they have no names of their own yet. */
export function duplicateSteps(cut: Cut, ids: readonly StepId[], newId: () => StepId): Cut {
  const copies = cut.steps
    .filter(({ id }) => ids.includes(id))
    .map((step) => ({ ...step, id: newId(), title: '' }));
  const after = cut.steps.findLastIndex(({ id }) => ids.includes(id)) + 1;
  return { ...cut, steps: [...cut.steps.slice(0, after), ...copies, ...cut.steps.slice(after)] };
}

/** Joins those of the steps that follow one another; each run becomes its first. */
export function joinSteps(cut: Cut, ids: readonly StepId[]): Cut {
  const isIn = (step: Step | undefined) => step !== undefined && ids.includes(step.id);
  const joined = cut.steps.filter((step, i) => isIn(step) && isIn(cut.steps[i - 1]));
  return joined.reduceRight((now, { id }) => join(now, id), cut);
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

/**
 * Shows other pieces in a step's place: a take of it that was recorded again. Everything else of it stays; zooms and covers for as long as
 * the new pieces are.
 */
export const replaceStep = (cut: Cut, id: StepId, pieces: Piece[]): Cut => ({
  ...cut,
  steps: cut.steps.map((step) => {
    if (step.id !== id) return step;
    const lengthUs = stepTimeUs({ pieces });
    const [zooms, covers] = [spansBetween(step.zooms, 0, lengthUs), spansBetween(step.covers, 0, lengthUs)];
    return { ...step, pieces, zooms, covers };
  }),
});

/** Puts steps, in their order, before another, or before the next one that is none of them; null: at the end. */
export function moveSteps(cut: Cut, ids: readonly StepId[], before: StepId | null): Cut {
  const isMoved = ({ id }: Step) => ids.includes(id);
  const at = before === null ? cut.steps.length : cut.steps.findIndex(({ id }) => id === before);
  if (at < 0) return cut;
  const [ahead, behind] = [cut.steps.slice(0, at), cut.steps.slice(at)].map((part) =>
    part.filter((step) => !isMoved(step)),
  );
  const steps = [...(ahead ?? []), ...cut.steps.filter(isMoved), ...(behind ?? [])];
  return steps.every((step, i) => step === cut.steps[i]) ? cut : { ...cut, steps };
}

/**
 * The stretch of a take that is worth showing.
 * @param trimmed as `headsAndTails` found it; null shows all of it
 */
export const pieceOfTake = (
  take: { id: TakeId; durationUs: number | null },
  trimmed: { inUs: number; outUs: number } | null,
): Piece => ({ take: take.id, inUs: 0, outUs: Math.max(1, take.durationUs ?? 0), ...trimmed });

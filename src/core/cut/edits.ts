import type { StepId } from '../base/ids';
import { ProblemError } from '../base/problem';
import type { Layout } from '../layout/layout-kinds';
import { type Cut, cutLengthUs, type Gains, type Piece, placedSteps, type Step, stepLengthUs } from './cut';

/**
 * Edits are functions from cut to cut: they change nothing, so that undoing is going back to the cut before. Places are µs of
 * the video. An edit that changes nothing returns the very cut it was given.
 */

/** The part of pieces that lies between two places, counted from the first piece's start. */
function between(pieces: readonly Piece[], fromUs: number, toUs: number): Piece[] {
  let startUs = 0;
  return pieces.flatMap((piece) => {
    const inUs = Math.max(piece.inUs, piece.inUs + fromUs - startUs);
    const outUs = Math.min(piece.outUs, piece.inUs + toUs - startUs);
    startUs += piece.outUs - piece.inUs;
    return inUs < outUs ? [{ ...piece, inUs, outUs }] : [];
  });
}

/** Neighbours that go on where the other ended are one piece. */
function joined(pieces: readonly Piece[]): Piece[] {
  const all: Piece[] = [];
  for (const piece of pieces) {
    const before = all.at(-1);
    if (before?.take === piece.take && before.outUs === piece.inUs)
      all[all.length - 1] = { ...before, outUs: piece.outUs };
    else all.push(piece);
  }
  return all;
}

/** Changes the pieces of every step; one that has none left goes. */
function mapSteps(cut: Cut, change: (step: Step, startUs: number, endUs: number) => Piece[]): Cut {
  const steps = placedSteps(cut).flatMap(({ step, startUs, endUs }) => {
    const pieces = joined(change(step, startUs, endUs));
    return pieces.length > 0 ? [{ ...step, pieces }] : [];
  });
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
  return mapSteps(cut, (step, startUs, endUs) => [
    ...between(step.pieces, 0, fromUs - startUs),
    ...between(step.pieces, toUs - startUs, endUs - startUs),
  ]);
}

/** Keeps only a part: trims both ends at once. */
export function keep(cut: Cut, fromUs: number, toUs: number): Cut {
  checkRange(cut, fromUs, toUs);
  if (fromUs === 0 && toUs === cutLengthUs(cut)) return cut;
  return mapSteps(cut, (step, startUs) => between(step.pieces, fromUs - startUs, toUs - startUs));
}

/** Makes two steps of the one that is seen at a place; the second gets the new id. At a border there is nothing to split. */
export function split(cut: Cut, us: number, newId: StepId): Cut {
  const steps = placedSteps(cut).flatMap(({ step, startUs, endUs }) => {
    const here = us - startUs;
    if (here <= 0 || us >= endUs) return [step];
    const [first, second] = [between(step.pieces, 0, here), between(step.pieces, here, stepLengthUs(step))];
    return [
      { ...step, pieces: first },
      { ...step, id: newId, title: '', pieces: second },
    ];
  });
  return steps.length === cut.steps.length ? cut : { ...cut, steps };
}

/** Joins a step to the one before it, whose layout and title it takes. The first has none before it. */
export function join(cut: Cut, id: StepId): Cut {
  const index = cut.steps.findIndex((step) => step.id === id);
  const [before, step] = [cut.steps[index - 1], cut.steps[index]];
  if (!before || !step) return cut;
  const one = { ...before, pieces: joined([...before.pieces, ...step.pieces]) };
  return { ...cut, steps: [...cut.steps.slice(0, index - 1), one, ...cut.steps.slice(index + 1)] };
}

/**
 * Moves where the video begins or ends, also outwards, over what was trimmed before.
 * @param takeUs on the clock of the take at that end
 * @param takeLengthUs length of that take: an end cannot lie beyond it
 */
export function moveEnd(cut: Cut, end: 'start' | 'end', takeUs: number, takeLengthUs: number): Cut {
  const step = cut.steps.at(end === 'start' ? 0 : -1);
  const piece = step?.pieces.at(end === 'start' ? 0 : -1);
  if (!step || !piece) return cut;
  const moved =
    end === 'start'
      ? { ...piece, inUs: Math.max(0, Math.min(takeUs, piece.outUs - LEAST_US)) }
      : { ...piece, outUs: Math.min(takeLengthUs, Math.max(takeUs, piece.inUs + LEAST_US)) };
  return changeStep(cut, step.id, {
    pieces: step.pieces.map((each) => (each === piece ? moved : each)),
  });
}

/** Shorter than a frame of 60 per second, nothing is seen. */
const LEAST_US = 20_000;

function changeStep(cut: Cut, id: StepId, change: Partial<Omit<Step, 'id'>>): Cut {
  return { ...cut, steps: cut.steps.map((step) => (step.id === id ? { ...step, ...change } : step)) };
}

export const setLayout = (cut: Cut, id: StepId, layout: Layout): Cut => changeStep(cut, id, { layout });
export const setGains = (cut: Cut, id: StepId, gains: Gains): Cut => changeStep(cut, id, { gains });
export const setTitle = (cut: Cut, id: StepId, title: string): Cut =>
  changeStep(cut, id, { title: title.slice(0, 200) });

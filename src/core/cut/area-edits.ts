import type { StepId } from '../base/ids';
import { ProblemError } from '../base/problem';
import { type Area, type Cover, type CoverKind, type Span, USUAL_EASE_US, type Zoom } from './area';
import { at, type Cut, type Step, stepTimeUs } from './cut';
import { changeStep } from './edits';

/** Edits of what is zoomed and covered in a step. Times are the step's own; areas are shares of the screen. */

/** A zoom or cover that is shorter is not seen as one. */
const LEAST_US = 200_000;
const USUAL_ZOOM_US = 4_000_000;
/** Twice as large, in the middle. */
const FIRST_ZOOM: Area = { x: 0.25, y: 0.25, width: 0.5, height: 0.5 };
/** About a field of a form. */
const FIRST_COVER: Area = { x: 0.3, y: 0.42, width: 0.4, height: 0.08 };

const stepOf = (cut: Cut, id: StepId): Step => {
  const step = cut.steps.find((each) => each.id === id);
  if (!step) throw new RangeError(`There is no step ${id} in this cut.`);
  return step;
};

const inOrder = <T extends Span>(spans: readonly T[]): T[] => [...spans].sort((a, b) => a.fromUs - b.fromUs);

/**
 * Zooms in at a place of the video, for some seconds or as long as there is room before the next zoom.
 * @throws {ProblemError} `no-room` when a zoom is there already, or the step ends
 */
export function addZoom(cut: Cut, us: number): Cut {
  const { step, hereUs } = at(cut, us);
  const zoom = step.zooms.find(({ fromUs, toUs }) => fromUs <= hereUs && hereUs < toUs);
  const next = Math.min(
    stepTimeUs(step),
    ...step.zooms.filter(({ fromUs }) => fromUs > hereUs).map(({ fromUs }) => fromUs),
  );
  if (zoom || next - hereUs < LEAST_US)
    throw new ProblemError({
      code: 'no-room',
      message: zoom ? 'The picture is zoomed here already.' : 'There is no room for a zoom here.',
      hint: zoom ? 'Change that zoom, or delete it.' : 'Move the playhead further from the end of the step.',
    });
  const added: Zoom = {
    ...{ fromUs: hereUs, toUs: Math.min(next, hereUs + USUAL_ZOOM_US) },
    ...{ area: FIRST_ZOOM, easeUs: USUAL_EASE_US },
  };
  return changeStep(cut, step.id, { zooms: inOrder([...step.zooms, added]) });
}

/** Covers an area from a place of the video to the end of its step: whoever hides something wants it hidden. */
export function addCover(cut: Cut, us: number, kind: CoverKind): Cut {
  const { step, hereUs } = at(cut, us);
  const lengthUs = stepTimeUs(step);
  const added: Cover = {
    ...{ fromUs: Math.max(0, Math.min(hereUs, lengthUs - LEAST_US)), toUs: lengthUs },
    ...{ area: FIRST_COVER, kind },
  };
  return changeStep(cut, step.id, { covers: inOrder([...step.covers, added]) });
}

/** Changes one zoom. It ends before the next one begins, and never leaves its step. @param index of `zooms`, in order */
export function changeZoom(cut: Cut, id: StepId, index: number, change: Partial<Zoom>): Cut {
  const step = stepOf(cut, id);
  const zooms = inOrder(step.zooms);
  const zoom = zooms[index];
  if (!zoom) return cut;
  const room = { fromUs: zooms[index - 1]?.toUs ?? 0, toUs: zooms[index + 1]?.fromUs ?? stepTimeUs(step) };
  zooms[index] = within({ ...zoom, ...change }, room, change);
  return changeStep(cut, id, { zooms });
}

/** Changes one cover; covers may lie over one another. @param index of `covers`, in order */
export function changeCover(cut: Cut, id: StepId, index: number, change: Partial<Cover>): Cut {
  const step = stepOf(cut, id);
  const covers = inOrder(step.covers);
  const cover = covers[index];
  if (!cover) return cut;
  covers[index] = within({ ...cover, ...change }, { fromUs: 0, toUs: stepTimeUs(step) }, change);
  return changeStep(cut, id, { covers });
}

export function removeArea(cut: Cut, id: StepId, what: 'zooms' | 'covers', index: number): Cut {
  const step = stepOf(cut, id);
  const left = <T extends Span>(spans: readonly T[]) => inOrder(spans).filter((_, i) => i !== index);
  return changeStep(cut, id, what === 'zooms' ? { zooms: left(step.zooms) } : { covers: left(step.covers) });
}

/** A span inside the room that it has; the end that was not moved stays. */
function within<T extends Span>(span: T, room: Span, { fromUs }: Partial<Span>): T {
  const from = Math.max(room.fromUs, Math.min(span.fromUs, room.toUs - LEAST_US));
  const to = Math.max(from + 1, Math.min(span.toUs, room.toUs));
  if (to - from >= LEAST_US) return { ...span, fromUs: from, toUs: to };
  return fromUs === undefined
    ? { ...span, fromUs: from, toUs: Math.min(room.toUs, from + LEAST_US) }
    : { ...span, fromUs: Math.max(room.fromUs, to - LEAST_US), toUs: to };
}

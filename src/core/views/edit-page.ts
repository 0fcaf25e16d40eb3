import { z } from 'zod';
import { type LessonId, newStepId, StepId, type TakeId } from '../base/ids';
import { Cut, defaultCut, gainsOf, type Step } from '../cut/cut';
import type { Hand } from '../cut/hand';
import { pieceOfTake } from '../cut/whole-steps';
import type { IncomingView } from './incoming';
import type { TakePage } from './take-page';

/** Everything the Edit stage needs. Plain data: it crosses from server to browser. */
export type EditPage = {
  /** Null while the lesson has no take that can be cut. */
  cut: Cut | null;
  /** 0 before the first save. */
  revision: number;
  /** Every take of the lesson that could be used, the newest first, then what else the cut shows. */
  takes: EditTake[];
  /** Files that are on their way to be takes of it. */
  incoming: IncomingView[];
};

export type EditTake = TakePage & {
  marksUs: number[];
  hand: Hand;
  /** Of this lesson, and not in the bin: one that can be added again. */
  own: boolean;
};

/** Another lesson and its takes, of which a cut can be made as well. */
export type OtherLesson = {
  id: LessonId;
  title: string;
  takes: { id: TakeId; title: string; durationUs: number }[];
};

/** A saved state of a cut, as the list of versions shows it. */
export type CutVersionView = {
  revision: number;
  /** ISO 8601 */
  savedAt: string;
  /** What it changed (`describe-change.ts`). */
  change: string;
  steps: number;
  lengthUs: number;
  /** Kept whatever its age: it was replaced whole by another cut. */
  pinned: boolean;
};

/** What a lesson would begin with: all of a take, laid out and mixed as its rig says. */
export const cutOfTake = (take: TakePage): Cut =>
  // The step is named for its take, so that whoever begins with this take begins with the same cut.
  defaultCut(StepId.parse(take.id), {
    id: take.id,
    durationUs: take.durationUs ?? 0,
    camera: take.rig.camera?.place ?? null,
    gains: gainsOf(take.rig),
  });

/** A take as a step of its own. @param trimmed the stretch of it that is worth showing; null for all of it */
export function stepOfTake(take: TakePage, trimmed: { inUs: number; outUs: number } | null): Step {
  const [step] = cutOfTake(take).steps;
  if (!step) throw new RangeError('A cut has at least one step.');
  return { ...step, id: newStepId(), pieces: [pieceOfTake(take, trimmed)] };
}

export const CutSave = z.object({ cut: Cut, revision: z.int().min(0) });
export type CutSave = z.infer<typeof CutSave>;

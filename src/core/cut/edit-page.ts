import { z } from 'zod';
import { newStepId } from '../ids';
import type { TakePage } from '../take-page';
import { Cut, defaultCut, gainsOf } from './cut';

/** Everything the Edit stage needs. Plain data: it crosses from server to browser. */
export type EditPage = {
  /** Null while the lesson has no take that can be cut. */
  cut: Cut | null;
  /** 0 before the first save. */
  revision: number;
  /** Every take of the cut, and every other of the lesson that could be used; the newest first. */
  takes: (TakePage & { marksUs: number[] })[];
};

/** What a lesson would begin with: all of a take, laid out and mixed as its rig says. */
export const cutOfTake = (take: TakePage): Cut =>
  defaultCut(newStepId(), {
    id: take.id,
    durationUs: take.durationUs ?? 0,
    camera: take.rig.camera?.place ?? null,
    gains: gainsOf(take.rig),
  });

export const CutSave = z.object({ cut: Cut, revision: z.int().min(0) });
export type CutSave = z.infer<typeof CutSave>;

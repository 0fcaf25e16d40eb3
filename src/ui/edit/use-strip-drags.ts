import { useRef } from 'react';
import type { StepId } from '@/core/base/ids';
import type { Cut } from '@/core/cut/cut';
import { moveEnd } from '@/core/cut/edits';
import { moveMark, type PlacedMark } from '@/core/cut/marks';
import { stepSpeed } from '@/core/cut/piece';
import type { EditPage } from '@/core/views/edit-page';
import { useSame } from '../wire/use-same';
import type { CutKeeper } from './use-cut';

/** What is dragged on the strip. Distances are µs of the video since the drag began. */
export type StripDrags = {
  /** The beginning or the end of a step. */
  end: (step: StepId, end: 'start' | 'end', byUs: number, done: boolean) => void;
  /** @param mark as it was when the drag began */
  mark: (mark: PlacedMark, byUs: number, done: boolean) => void;
};

/** A drag: what is dragged, and the cut that it began with. */
type Drag = { what: StepId | PlacedMark; from: Cut; fresh: boolean };

/** Drags on the strip: each is one step of the history, however far it goes. */
export function useStripDrags({ cut, change }: CutKeeper, takes: EditPage['takes']): StripDrags {
  const dragged = useRef<Drag | null>(null);
  const drag = (now: Drag, make: (from: Cut) => Cut, done: boolean) => {
    change(make(now.from), now.fresh ? 'step' : 'drag');
    dragged.current = done ? null : { ...now, fresh: false };
  };
  return useSame<StripDrags>({
    end: (step, end, byUs, done) => {
      const known = dragged.current;
      // The playhead may come into another step meanwhile: the one that was taken hold of is trimmed.
      const now = typeof known?.what === 'string' ? known : { what: step, from: cut, fresh: true };
      const id = now.what as StepId;
      drag(now, (from) => trimmed(from, id, end, byUs, takes), done);
    },
    mark: (mark, byUs, done) => {
      const known = dragged.current;
      const now = known?.what === mark ? known : { what: mark, from: cut, fresh: true };
      drag(now, (from) => moveMark(from, mark, byUs * mark.speed), done);
    },
  });
}

function trimmed(from: Cut, id: StepId, end: 'start' | 'end', byUs: number, takes: EditPage['takes']): Cut {
  const step = from.steps.find((each) => each.id === id);
  const piece = step?.pieces.at(end === 'start' ? 0 : -1);
  if (!step || !piece) return from;
  const endUs = end === 'start' ? piece.inUs : piece.outUs;
  const takeUs = endUs + Math.round(byUs * stepSpeed(piece, step.speed));
  const lengthUs = takes.find(({ id: of }) => of === piece.take)?.durationUs ?? 0;
  return moveEnd(from, id, end, takeUs, lengthUs);
}

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
  mark: (mark: PlacedMark, byUs: number, done: boolean) => void;
};

/** Drags on the strip: each is one step of the history, however far it goes. */
export function useStripDrags({ cut, change }: CutKeeper, takes: EditPage['takes']): StripDrags {
  const dragged = useRef<{ from: Cut; fresh: boolean } | null>(null);
  const drag = (make: (from: Cut) => Cut, done: boolean) => {
    dragged.current ??= { from: cut, fresh: true };
    const { from, fresh } = dragged.current;
    change(make(from), fresh ? 'step' : 'drag');
    dragged.current = done ? null : { from, fresh: false };
  };
  const lengthUs = (take: string | undefined) => takes.find(({ id }) => id === take)?.durationUs ?? 0;
  return useSame<StripDrags>({
    end: (id, end, byUs, done) =>
      drag((from) => {
        const step = from.steps.find((each) => each.id === id);
        const piece = step?.pieces.at(end === 'start' ? 0 : -1);
        if (!step || !piece) return from;
        const takeUs =
          (end === 'start' ? piece.inUs : piece.outUs) + Math.round(byUs * stepSpeed(piece, step.speed));
        return moveEnd(from, id, end, takeUs, lengthUs(piece.take));
      }, done),
    mark: (mark, byUs, done) =>
      drag((from) => moveMark(from, mark, byUs * mark.speed, lengthUs(mark.take)), done),
  });
}

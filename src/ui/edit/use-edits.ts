import { App } from 'antd';
import { type RefObject, useState } from 'react';
import { newStepId } from '@/core/base/ids';
import { problemOf } from '@/core/base/problem';
import { type Cut, cutLengthUs } from '@/core/cut/cut';
import { keep, remove, split } from '@/core/cut/edits';
import type { Player } from '@/player/player';
import { useAction } from '../keys/use-action';
import { useSame } from '../wire/use-same';
import type { Range } from './range';
import type { CutKeeper } from './use-cut';

/** What can be done to the video with one key or button: the same acts every time. */
export type Edits = {
  /** Selects a stretch of the video. */
  choose: (range: Range | null) => void;
  /** Where the playhead is at this moment: a key or click may come before the last picture was drawn. */
  placeUs: () => number;
  /**
   * Any other edit; one that cannot be says why.
   * @param make is given the playhead's place
   * @param goTo where the playhead stands afterwards: where it is, unless this says another place
   */
  edit: (make: (cut: Cut, atUs: number) => Cut, goTo?: number) => void;
  markIn: () => void;
  markOut: () => void;
  takeOut: () => void;
  keepOnly: () => void;
  splitHere: () => void;
  trim: () => void;
};

/**
 * The edits of the Edit stage, by button and by key.
 * @param shown the cut that the player has: it is told at once, and not once more when the page follows
 * @param proposed what is left without head and tail
 * @returns them, and the selected stretch of the video
 */
export function useEdits(
  { cut, change, undo, redo }: CutKeeper,
  player: Player | null,
  shown: RefObject<Cut>,
  proposed: Range | null,
): { edits: Edits; chosen: Range | null } {
  const { message } = App.useApp();
  const [chosen, choose] = useState<Range | null>(null);
  const lengthUs = cutLengthUs(cut);
  const placeUs = () => Math.min(player?.store.getState().positionUs ?? 0, lengthUs);
  const edit: Edits['edit'] = (make, goTo = placeUs()) => {
    try {
      const next = make(cut, placeUs());
      if (next === cut) return;
      choose(null);
      shown.current = next;
      player?.setCut(next, Math.min(goTo, cutLengthUs(next)));
      change(next);
    } catch (error) {
      const { message: what, hint } = problemOf(error);
      message.warning(hint ? `${what} ${hint}` : what);
    }
  };
  const select = (fromUs: number, toUs: number) => {
    if (fromUs < toUs) choose({ fromUs, toUs });
  };
  const edits = useSame<Edits>({
    ...{ choose, placeUs, edit },
    markIn: () => {
      const atUs = placeUs();
      select(atUs, chosen && chosen.toUs > atUs ? chosen.toUs : lengthUs);
    },
    markOut: () => {
      const atUs = placeUs();
      select(chosen && chosen.fromUs < atUs ? chosen.fromUs : 0, atUs);
    },
    takeOut: () => chosen && edit((now) => remove(now, chosen.fromUs, chosen.toUs), chosen.fromUs),
    keepOnly: () => chosen && edit((now) => keep(now, chosen.fromUs, chosen.toUs), 0),
    splitHere: () => edit((now, atUs) => split(now, atUs, newStepId())),
    trim: () => proposed && edit((now) => keep(now, proposed.fromUs, proposed.toUs), 0),
  });
  useAction('edit.in', edits.markIn);
  useAction('edit.out', edits.markOut);
  useAction('edit.remove', edits.takeOut);
  useAction('edit.keep', edits.keepOnly);
  useAction('edit.split', edits.splitHere);
  useAction('edit.trim', edits.trim);
  useAction('edit.deselect', () => choose(null));
  useAction('edit.undo', undo, { repeats: true });
  useAction('edit.redo', redo, { repeats: true });
  return { edits, chosen };
}

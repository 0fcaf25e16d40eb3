'use client';

import { useDrag } from '@use-gesture/react';

type How = {
  /** Whether arrow keys move it: by 1, with Shift by 10. Otherwise a pointer does. */
  byKeys: boolean;
  /** Whether Ctrl is held: what is moved otherwise is resized. */
  ctrl: boolean;
  /** Whether this is the last of a drag. Each press of an arrow key is a drag of its own. */
  done: boolean;
};

type Memo<Start> = { from: Start; moved: boolean };

/**
 * A handle that is dragged by pointer and moved by arrow keys.
 * @param start what the handle moves, as it is now
 * @param move told which grip is held, what was there when the drag began, how far it has gone since in pixels of the
 *   screen, and how
 * @returns what an element is given to be that grip
 */
export function useHandle<Grip, Start>(
  start: Start,
  move: (grip: Grip, from: Start, dx: number, dy: number, how: How) => void,
) {
  return useDrag(
    ({ args: [grip], event, first, last, movement: [dx, dy], delta, memo }): Memo<Start> => {
      event.stopPropagation();
      if (event.type.startsWith('key')) {
        // Its own up is none of ours: the press has moved it already.
        if (event.type !== 'keydown') return memo;
        event.preventDefault();
        move(grip, start, delta[0], delta[1], {
          byKeys: true,
          ctrl: event.ctrlKey || event.metaKey,
          done: true,
        });
        return memo;
      }
      const { from, moved }: Memo<Start> = first ? { from: start, moved: false } : memo;
      // Taking hold of it is not moving it, and neither is letting go.
      const moves = moved || dx !== 0 || dy !== 0;
      if (moves) move(grip, from, dx, dy, { byKeys: false, ctrl: false, done: last });
      return { from, moved: moves };
    },
    { keyboardDisplacement: 1 },
  ) as (grip: Grip) => ReturnType<ReturnType<typeof useDrag>>;
}

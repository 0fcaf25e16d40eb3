import { useRef } from 'react';
import { useHandle } from '../wire/use-handle';

/** Colours are shared by two pixels: what is drawn in the picture stands on even ones. */
const EVEN = 2;
/** What an arrow moves: one step, with Shift ten pixels. */
const byArrow = (pixels: number): number => (Math.abs(pixels) === 1 ? pixels * EVEN : pixels);

type Drawn = {
  /** The picture's pixels for one of the screen; 0 when it is moved by keys. */
  scale: number;
  /** With keys: it is resized. */
  ctrl: boolean;
  /** Whether this is the last of a drag. */
  done: boolean;
};

/**
 * Moving and resizing a box on a picture, by pointer and by arrow keys, in the picture's own pixels.
 * @param width of the picture, in its pixels
 * @param start what the box is now
 * @param draw told the grip that is held, what the box was when it was taken, how far it has gone since, and how
 * @returns `grip` makes an element a grip, `box` is for the box on the picture
 */
export function useDrawing<Grip, Start>(
  width: number,
  start: Start,
  draw: (grip: Grip, from: Start, dx: number, dy: number, how: Drawn) => void,
) {
  const box = useRef<HTMLDivElement>(null);
  const grip = useHandle<Grip, Start>(start, (held, from, dx, dy, { byKeys, ctrl, done }) => {
    const outer = box.current?.parentElement;
    if (byKeys) return draw(held, from, byArrow(dx), byArrow(dy), { scale: 0, ctrl, done });
    const scale = outer ? width / outer.getBoundingClientRect().width : 0;
    draw(held, from, dx * scale, dy * scale, { scale, ctrl: false, done });
  });
  return { box, grip };
}

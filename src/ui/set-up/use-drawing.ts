import { type KeyboardEvent, type PointerEvent, useRef } from 'react';

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/**
 * Moving and resizing a box on a picture, by pointer and by arrow keys, in the picture's own pixels.
 * @param width of the picture, in its pixels
 * @param start what the box is now
 * @param draw told the grip that is held, what the box was when it was taken, and how far it has gone since. `scale` is the
 *   picture's pixels for one of the screen; 0 when it is moved by keys
 * @param stepOf how far one press of an arrow goes
 * @returns `down` and `key` for each grip, `around` for the element that holds the picture, `box` for the box in it
 */
export function useDrawing<Grip, Start>(
  width: number,
  start: Start,
  draw: (grip: Grip, from: Start, dx: number, dy: number, scale: number) => void,
  stepOf: (grip: Grip, shift: boolean) => number,
) {
  const box = useRef<HTMLDivElement>(null);
  const held = useRef<{ x: number; y: number; from: Start; grip: Grip } | null>(null);
  const up = () => {
    held.current = null;
  };
  return {
    box,
    down: (grip: Grip) => (event: PointerEvent) => {
      event.preventDefault();
      event.stopPropagation();
      (event.target as Element).setPointerCapture(event.pointerId);
      (event.currentTarget as HTMLElement).focus();
      held.current = { x: event.clientX, y: event.clientY, from: start, grip };
    },
    key: (grip: Grip) => (event: KeyboardEvent) => {
      const arrow = ARROWS[event.key];
      if (!arrow) return;
      event.preventDefault();
      event.stopPropagation();
      const by = stepOf(grip, event.shiftKey);
      draw(grip, start, arrow[0] * by, arrow[1] * by, 0);
    },
    around: {
      onPointerMove: (event: PointerEvent) => {
        const outer = box.current?.parentElement?.getBoundingClientRect();
        if (!held.current || !outer) return;
        const { x, y, from, grip } = held.current;
        const scale = width / outer.width;
        draw(grip, from, (event.clientX - x) * scale, (event.clientY - y) * scale, scale);
      },
      onPointerUp: up,
      onPointerCancel: up,
    },
  };
}

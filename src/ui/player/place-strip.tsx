'use client';

import { useDrag } from '@use-gesture/react';
import type { ReactNode, RefObject } from 'react';
import { clockText } from '@/core/base/figures';

/** How wide a strip's drawing is, whatever it is stretched to. */
export const STRIP_WIDTH = 1000;

/** The place in µs that lies under a pointer; within the strip's ends. */
export function usUnder(strip: HTMLElement | null, clientX: number, lengthUs: number): number {
  if (!strip) return 0;
  const box = strip.getBoundingClientRect();
  return Math.round(Math.max(0, Math.min(1, (clientX - box.left) / box.width)) * lengthUs);
}

/** A film from end to end, on which a place is chosen by pointer; keys are those of the player. */
export function PlaceStrip(props: {
  label: string;
  strip: RefObject<HTMLDivElement | null>;
  height: number;
  positionUs: number;
  lengthUs: number;
  onSeek: (us: number) => void;
  /** Drawn in `STRIP_WIDTH` by `height`. */
  drawing: ReactNode;
  /** Laid over the drawing. */
  children?: ReactNode;
}) {
  const { strip, positionUs, lengthUs, onSeek } = props;
  // Its arrow keys are the player's: a frame, with Shift five seconds.
  const drag = useDrag(({ xy: [x] }) => onSeek(usUnder(strip.current, x, lengthUs)), {
    pointer: { keys: false },
  });
  return (
    <div
      ref={strip}
      className="time-strip"
      role="slider"
      tabIndex={0}
      aria-label={props.label}
      aria-valuemin={0}
      aria-valuemax={Math.round(lengthUs / 1e6)}
      aria-valuenow={Math.round(positionUs / 1e6)}
      aria-valuetext={clockText(positionUs)}
      {...drag()}
    >
      <svg
        viewBox={`0 0 ${STRIP_WIDTH} ${props.height}`}
        preserveAspectRatio="none"
        width="100%"
        height={props.height}
        aria-hidden="true"
      >
        {props.drawing}
      </svg>
      {props.children}
    </div>
  );
}

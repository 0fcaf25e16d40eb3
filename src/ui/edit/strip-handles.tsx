'use client';

import { useRef } from 'react';
import { useHandle } from '../wire/use-handle';
import type { Range } from './range';
import { SNAP_PX, snapped } from './snap';

/** In and out point of what is chosen. */
export function ChosenHandles(props: {
  chosen: Range;
  lengthUs: number;
  usPerPixel: () => number;
  /** Places that a handle jumps to. */
  points: readonly number[];
  onChoose: (range: Range) => void;
}) {
  const { chosen, lengthUs, usPerPixel, onChoose } = props;
  // By keys it goes where it is told, pixel by pixel.
  const near = (us: number, byKeys: boolean) =>
    byKeys ? us : snapped(us, props.points, SNAP_PX * usPerPixel());
  const left = (us: number) => `${(100 * us) / lengthUs}%`;
  return (
    <>
      <ChosenHandle
        label="In point"
        left={left(chosen.fromUs)}
        atUs={chosen.fromUs}
        usPerPixel={usPerPixel}
        onMove={(us, byKeys) =>
          onChoose({ ...chosen, fromUs: Math.max(0, Math.min(near(us, byKeys), chosen.toUs - 1)) })
        }
      />
      <ChosenHandle
        label="Out point"
        left={left(chosen.toUs)}
        atUs={chosen.toUs}
        usPerPixel={usPerPixel}
        onMove={(us, byKeys) =>
          onChoose({ ...chosen, toUs: Math.min(lengthUs, Math.max(near(us, byKeys), chosen.fromUs + 1)) })
        }
      />
    </>
  );
}

/** One end of what is chosen. */
function ChosenHandle(props: {
  label: string;
  left: string;
  atUs: number;
  usPerPixel: () => number;
  onMove: (us: number, byKeys: boolean) => void;
}) {
  const grip = useHandle<null, number>(props.atUs, (_, from, dx, __, { byKeys }) =>
    props.onMove(from + Math.round(dx * props.usPerPixel()), byKeys),
  );
  return (
    <button
      type="button"
      className="handle"
      aria-label={props.label}
      style={{ left: props.left }}
      {...grip(null)}
    />
  );
}

/** One of the video's ends: dragged inwards it trims, outwards it brings back what was trimmed. */
export function EndHandle(props: {
  end: 'start' | 'end';
  usPerPixel: () => number;
  onEnd: (end: 'start' | 'end', byUs: number, done: boolean) => void;
}) {
  const { end, usPerPixel, onEnd } = props;
  // What a pixel is worth changes with the video's length, which is what is dragged: it stays what it was at the start.
  const worth = useRef(0);
  const grip = useHandle<null, () => number>(usPerPixel, (_, from, dx, __, { byKeys, done }) => {
    worth.current ||= from();
    const byUs = Math.round(dx * (byKeys ? usPerPixel() : worth.current));
    if (done) worth.current = 0;
    onEnd(end, byUs, done);
  });
  return (
    <button
      type="button"
      className={`handle end ${end}`}
      aria-label={end === 'start' ? 'Where the video begins' : 'Where the video ends'}
      {...grip(null)}
    />
  );
}

'use client';

import { memo, useRef } from 'react';
import { clockText } from '@/core/base/figures';
import type { PlacedMark } from '@/core/cut/marks';
import { useHandle } from '../wire/use-handle';
import type { Range } from './range';
import { SNAP_PX, snapped } from './snap';

/** In and out point of what is chosen. */
export function ChosenHandles(props: {
  chosen: Range;
  lengthUs: number;
  usPerPixel: () => number;
  /** Places that a handle jumps to. */
  points: () => readonly number[];
  onChoose: (range: Range) => void;
}) {
  const { chosen, lengthUs, usPerPixel, onChoose } = props;
  // By keys it goes where it is told, pixel by pixel.
  const near = (us: number, byKeys: boolean) =>
    byKeys ? us : snapped(us, props.points(), SNAP_PX * usPerPixel());
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

/** An end of a step: dragged inwards it trims, outwards it brings back what was trimmed; what comes after it moves along. */
function EndHandle(props: {
  end: 'start' | 'end';
  /** Of the strip: "40%". */
  left: string;
  label: string;
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
      aria-label={props.label}
      title={props.label}
      style={{ left: props.left }}
      {...grip(null)}
    />
  );
}

/** The two ends of a step, where it is in the video. */
export function StepEnds(props: {
  title: string;
  startUs: number;
  endUs: number;
  lengthUs: number;
  usPerPixel: () => number;
  onEnd: (end: 'start' | 'end', byUs: number, done: boolean) => void;
}) {
  const { title, startUs, endUs, lengthUs, usPerPixel, onEnd } = props;
  const at = { start: startUs, end: endUs };
  return (['start', 'end'] as const).map((end) => (
    <EndHandle
      key={end}
      {...{ end, usPerPixel, onEnd }}
      left={`${(100 * at[end]) / lengthUs}%`}
      label={end === 'start' ? `Start of ${title}` : `End of ${title}`}
    />
  ));
}

/** A mark: it is moved along its take. */
export const MarkHandle = memo(function MarkHandle(props: {
  mark: PlacedMark;
  name: string;
  lengthUs: number;
  usPerPixel: () => number;
  onMove: (mark: PlacedMark, byUs: number, done: boolean) => void;
}) {
  const { mark, name, lengthUs, usPerPixel, onMove } = props;
  const grip = useHandle<null, PlacedMark>(mark, (_, from, dx, __, { done }) =>
    onMove(from, dx * usPerPixel(), done),
  );
  return (
    <button
      type="button"
      className="handle mark"
      aria-label={`${name} at ${clockText(mark.us)}`}
      title={name}
      style={{ left: `${(100 * mark.us) / lengthUs}%` }}
      {...grip(null)}
    />
  );
});

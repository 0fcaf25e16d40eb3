import { useRef } from 'react';
import type { StepId } from '@/core/base/ids';
import { type Cut, type Step, stepTimeUs } from '@/core/cut/cut';
import { changeStep } from '@/core/cut/edits';
import { type Envelope, type EnvelopePoint, envelopeDb, movedPoint, withPoint } from '@/core/cut/envelope';
import { MIX_KEYS } from '@/core/cut/mix';
import type { SoundKind } from '@/core/recording/take';
import { useSame } from '../wire/use-same';
import type { CutKeeper } from './use-cut';

/** A point of the envelope of a step's sound. */
export type PointRef = { step: StepId; sound: SoundKind; index: number };

export type EnvelopeEdits = {
  /** Adds a point at a time of a step, as loud as it is there. */
  add: (step: StepId, sound: SoundKind, hereUs: number) => void;
  setGain: (point: PointRef, gainDb: number) => void;
  remove: (point: PointRef) => void;
  /** A drag, counted from where it began: µs of the step's time, decibels. It is one step of the history. */
  drag: (point: PointRef, byUs: number, byDb: number, done: boolean) => void;
};

/** Changes the envelope of a step's sound. */
function changed(
  cut: Cut,
  { step: id, sound }: Omit<PointRef, 'index'>,
  change: (points: Envelope, step: Step) => Envelope,
): Cut {
  const step = cut.steps.find((each) => each.id === id);
  if (!step) return cut;
  const key = MIX_KEYS[sound].envelope;
  return changeStep(cut, id, {
    envelopes: { ...step.envelopes, [key]: change(step.envelopes[key], step) },
  });
}

/** Moves a point from where it is. */
const moved = (cut: Cut, point: PointRef, to: (from: EnvelopePoint) => EnvelopePoint): Cut =>
  changed(cut, point, (points, step) => {
    const from = points[point.index];
    return from ? movedPoint(points, point.index, to(from), stepTimeUs(step)) : points;
  });

const isSame = (a: PointRef, b: PointRef): boolean =>
  a.step === b.step && a.sound === b.sound && a.index === b.index;

/** Edits of envelopes, by number and by drag. */
export function useEnvelopes({ cut, change }: CutKeeper): EnvelopeEdits {
  const dragged = useRef<{ point: PointRef; from: Cut } | null>(null);
  return useSame<EnvelopeEdits>({
    add: (step, sound, atUs) =>
      change(
        changed(cut, { step, sound }, (points) =>
          withPoint(points, { atUs, gainDb: Math.round(envelopeDb(points, atUs)) }),
        ),
      ),
    setGain: (point, gainDb) => change(moved(cut, point, ({ atUs }) => ({ atUs, gainDb }))),
    remove: (point) => change(changed(cut, point, (points) => points.filter((_, i) => i !== point.index))),
    drag: (point, byUs, byDb, done) => {
      const known = dragged.current && isSame(dragged.current.point, point) ? dragged.current : null;
      const { from } = known ?? { from: cut };
      const next = moved(from, point, ({ atUs, gainDb }) => ({
        atUs: atUs + byUs,
        gainDb: Math.round(gainDb + byDb),
      }));
      change(next, known ? 'drag' : 'step');
      dragged.current = done ? null : { point, from };
    },
  });
}

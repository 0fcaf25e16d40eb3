import { useRef } from 'react';
import type { StepId } from '@/core/base/ids';
import type { Cut, Step } from '@/core/cut/cut';
import { changeStep } from '@/core/cut/edits';
import { type Envelope, type EnvelopeSound, envelopeDb, movedPoint, withPoint } from '@/core/cut/envelope';
import { useSame } from '../wire/use-same';
import type { CutKeeper } from './use-cut';

/** A point of an envelope of a step. */
export type PointRef = { step: StepId; sound: EnvelopeSound; index: number };

export type EnvelopeEdits = {
  /** Adds a point at a time of a step, as loud as it is there. */
  add: (step: StepId, sound: EnvelopeSound, hereUs: number) => void;
  setGain: (point: PointRef, gainDb: number) => void;
  remove: (point: PointRef) => void;
  /** A drag, counted from where it began: µs of the step's time, decibels. It is one step of the history. */
  drag: (point: PointRef, byUs: number, byDb: number, done: boolean) => void;
};

const setEnvelope = (cut: Cut, { envelopes, id }: Step, sound: EnvelopeSound, points: Envelope): Cut =>
  changeStep(cut, id, { envelopes: { ...envelopes, [sound]: points } });

/** Changes the envelope that a point is of. */
function changed(
  cut: Cut,
  { step: id, sound }: Omit<PointRef, 'index'>,
  change: (points: Envelope) => Envelope,
) {
  const step = cut.steps.find((each) => each.id === id);
  return step ? setEnvelope(cut, step, sound, change(step.envelopes[sound])) : cut;
}

export function useEnvelopes({ cut, change }: CutKeeper): EnvelopeEdits {
  const began = useRef<Cut | null>(null);
  return useSame<EnvelopeEdits>({
    add: (step, sound, hereUs) =>
      change(
        changed(cut, { step, sound }, (points) =>
          withPoint(points, { atUs: hereUs, gainDb: Math.round(envelopeDb(points, hereUs)) }),
        ),
      ),
    setGain: (point, gainDb) =>
      change(
        changed(cut, point, (points) => {
          const { atUs } = points[point.index] ?? { atUs: 0 };
          return movedPoint(points, point.index, { atUs, gainDb });
        }),
      ),
    remove: (point) => change(changed(cut, point, (points) => points.filter((_, i) => i !== point.index))),
    drag: (point, byUs, byDb, done) => {
      const from = began.current ?? cut;
      const next = changed(from, point, (points) => {
        const { atUs, gainDb } = points[point.index] ?? { atUs: 0, gainDb: 0 };
        return movedPoint(points, point.index, { atUs: atUs + byUs, gainDb: Math.round(gainDb + byDb) });
      });
      change(next, began.current ? 'drag' : 'step');
      began.current = done ? null : from;
    },
  });
}

import { useMemo, useState } from 'react';
import type { StepId } from '@/core/base/ids';
import { type Cut, PLAIN_STEP, type Step } from '@/core/cut/cut';

/** A zoom or a cover whose area is drawn on the picture. */
export type DrawnArea = { step: StepId; what: 'zooms' | 'covers'; index: number };

export type Areas = {
  drawn: DrawnArea | null;
  draw: (area: DrawnArea | null) => void;
};

/** Which area is drawn: only while its step is the one at the playhead, and as long as it is there. */
export function useAreas(step: Step): Areas {
  const [wanted, draw] = useState<DrawnArea | null>(null);
  const isThere = wanted?.step === step.id && step[wanted.what][wanted.index] !== undefined;
  const drawn = isThere ? wanted : null;
  return useMemo(() => ({ drawn, draw }), [drawn]);
}

/** The cut while an area of a step is drawn: all of the screen, alone, and only the other covers on it. */
export const cutToDrawOn = (cut: Cut, { step: id, what, index }: DrawnArea): Cut => ({
  ...cut,
  steps: cut.steps.map((step) =>
    step.id === id
      ? {
          ...step,
          ...{ layout: { kind: 'screen' as const }, zooms: PLAIN_STEP.zooms },
          covers: step.covers.filter((_, i) => what !== 'covers' || i !== index),
        }
      : step,
  ),
});

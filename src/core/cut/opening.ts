import type { Entry, Here, Placed } from './cut';

/** How far a step has come in from the one before it. */
export type Opened = {
  kind: Entry['kind'];
  /** 0: only the picture before is seen. 1 is never reached: from there on there is no transition. */
  share: number;
  /** A place of the video that shows the picture which stands. */
  beforeUs: number;
};

/** How long the transition into a piece is: only the first of a step has one, and it ends with it at the latest. */
export const openingUs = ({ step, stepUs, startUs, endUs }: Placed): number =>
  step.entry && stepUs === 0 && startUs > 0 ? Math.min(step.entry.lengthUs, endUs - startUs) : 0;

/** The transition at a place of the video. @returns null where there is none */
export function openedAt(here: Here, us: number): Opened | null {
  const lengthUs = openingUs(here);
  const intoUs = us - here.startUs;
  if (!here.step.entry || intoUs >= lengthUs) return null;
  return {
    kind: here.step.entry.kind,
    share: Math.max(0, intoUs) / lengthUs,
    beforeUs: here.startUs - 1,
  };
}

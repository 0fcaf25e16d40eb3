import type { PlacedStep } from '@/core/cut/cut';

/** Less of the strip than this is no room for a title. */
const NAMED_SHARE = 0.02;

/** One step with its title, or steps one after the other that have no room for one. */
export type BandRun = { isNamed: boolean; steps: readonly PlacedStep[] };

/**
 * The steps as the band above the strip shows them. Short ones that follow each other are one: a button for each of hundreds costs a
 * browser more than all the rest of the page, and nobody hits one of three pixels.
 * @param zoom how many times as wide as its window the strip is
 */
export function bandRuns(steps: readonly PlacedStep[], lengthUs: number, zoom: number): BandRun[] {
  const runs: { isNamed: boolean; steps: PlacedStep[] }[] = [];
  for (const step of steps) {
    const isNamed = (zoom * (step.endUs - step.startUs)) / lengthUs >= NAMED_SHARE;
    const last = runs.at(-1);
    if (last && !last.isNamed && !isNamed) last.steps.push(step);
    else runs.push({ isNamed, steps: [step] });
  }
  return runs;
}

/** The step of a run that lies at a share of its width, 0 to 1. */
export function stepOfRun({ steps }: BandRun, share: number): PlacedStep | undefined {
  const [first, last] = [steps[0], steps.at(-1)];
  if (!first || !last) return undefined;
  const us = first.startUs + share * (last.endUs - first.startUs);
  return steps.find(({ endUs }) => us < endUs) ?? last;
}

import { clockText } from '@/core/base/figures';
import { type Cut, placedPieces, placedSteps, shownAt, stepTimeUs } from '@/core/cut/cut';
import { openingUs } from '@/core/cut/opening';

/** A stretch of the video in which something is done to the picture. */
export type EffectSpan = {
  kind: 'zoom' | 'cover' | 'held' | 'entry';
  fromUs: number;
  toUs: number;
  /** In words, with its times. */
  name: string;
};

const NAMES: Record<EffectSpan['kind'], string> = {
  zoom: 'Zoom',
  cover: 'Cover',
  held: 'Held frame',
  entry: 'Transition',
};

/** Zooms, covers, held frames and transitions where they are seen in the video. */
export function effectSpans(cut: Cut): EffectSpan[] {
  const spans = placedSteps(cut).flatMap(({ step, startUs }) => {
    const lengthUs = stepTimeUs(step);
    const seen = (kind: EffectSpan['kind'], { fromUs, toUs }: { fromUs: number; toUs: number }) =>
      fromUs < lengthUs
        ? [
            {
              kind,
              fromUs: startUs + shownAt(step, fromUs),
              toUs: startUs + shownAt(step, Math.min(toUs, lengthUs)),
            },
          ]
        : [];
    return [
      ...step.zooms.flatMap((zoom) => seen('zoom', zoom)),
      ...step.covers.flatMap((cover) => seen('cover', cover)),
    ];
  });
  const pieces = placedPieces(cut).flatMap((placed) => {
    const { piece, startUs, endUs } = placed;
    const opening = openingUs(placed);
    return [
      ...(piece.heldUs === undefined ? [] : [{ kind: 'held' as const, fromUs: startUs, toUs: endUs }]),
      ...(opening > 0 ? [{ kind: 'entry' as const, fromUs: startUs, toUs: startUs + opening }] : []),
    ];
  });
  return [...spans, ...pieces].map((span) => ({
    ...span,
    name: `${NAMES[span.kind]}, ${clockText(span.fromUs)} to ${clockText(span.toUs)}`,
  }));
}

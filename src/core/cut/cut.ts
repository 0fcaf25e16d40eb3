import { z } from 'zod';
import { StepId, TakeId } from '../base/ids';
import { sameValue } from '../base/same-value';
import { Layout, layoutOf } from '../layout/layout-kinds';
import type { CameraPlace, Rig } from '../rig/rig';
import { upgradeCut } from './upgrade';

const Us = z.int().min(0).max(Number.MAX_SAFE_INTEGER);

/** A stretch of a take, from `inUs` up to but not including `outUs` on the take's clock. */
export const Piece = z
  .object({ take: TakeId, inUs: Us, outUs: Us })
  .refine(({ inUs, outUs }) => inUs < outUs, 'a piece must end after it begins');
export type Piece = z.infer<typeof Piece>;

/** How loud each sound of a step is, decibels over what was recorded. */
export const Gains = z.object({
  voiceDb: z.number().min(-60).max(12),
  appSoundDb: z.number().min(-60).max(12),
});
export type Gains = z.infer<typeof Gains>;

/** How a rig mixes its sounds. */
export const gainsOf = ({ voice, appSound }: Pick<Rig, 'voice' | 'appSound'>): Gains => ({
  voiceDb: voice?.gainDb ?? 0,
  appSoundDb: appSound?.gainDb ?? 0,
});

export const Step = z.object({
  id: StepId,
  /** Empty until somebody names it: then it is called by its place (`stepTitle`). */
  title: z.string().max(200),
  pieces: z.array(Piece).min(1).max(2000),
  layout: Layout,
  gains: Gains,
});
export type Step = z.infer<typeof Step>;

/** The arrangement of takes that becomes the video. Only ever points into takes; these stay as they were recorded. */
export const Cut = z.preprocess(
  upgradeCut,
  z.object({ version: z.literal(2), steps: z.array(Step).min(1).max(500) }),
);
export type Cut = z.infer<typeof Cut>;

/** What a step is called: its own name, or its place in the order. */
export const stepTitle = (cut: Cut, id: StepId): string => {
  const index = cut.steps.findIndex((step) => step.id === id);
  return cut.steps[index]?.title || `Step ${index + 1}`;
};

export const pieceLengthUs = ({ inUs, outUs }: Piece): number => outUs - inUs;
export const stepLengthUs = ({ pieces }: Pick<Step, 'pieces'>): number =>
  pieces.reduce((sum, piece) => sum + pieceLengthUs(piece), 0);
/** The steps in order with their places in the video; each begins where the one before it ends. */
export function placedSteps({ steps }: Pick<Cut, 'steps'>): { step: Step; startUs: number; endUs: number }[] {
  let startUs = 0;
  return steps.map((step) => {
    const placed = { step, startUs, endUs: startUs + stepLengthUs(step) };
    startUs = placed.endUs;
    return placed;
  });
}

/**
 * Lengths of the steps in whole seconds that add up to the whole seconds of the video: each is what its two ends come to.
 * @returns µs, whole seconds, one for each step
 */
export function shownLengthsUs(cut: Pick<Cut, 'steps'>): number[] {
  const wholeS = (us: number) => Math.floor(us / 1e6) * 1e6;
  return placedSteps(cut).map(({ startUs, endUs }) => wholeS(endUs) - wholeS(startUs));
}

/** How long the video becomes. */
export const cutLengthUs = ({ steps }: Pick<Cut, 'steps'>): number =>
  steps.reduce((sum, step) => sum + stepLengthUs(step), 0);

/** A piece with its place in the video. */
export type Placed = { step: Step; piece: Piece; startUs: number; endUs: number };

/** All pieces in the order in which they are seen; each begins where the one before it ends. */
export function placedPieces(cut: Cut): Placed[] {
  let startUs = 0;
  return cut.steps.flatMap((step) =>
    step.pieces.map((piece) => {
      const placed = { step, piece, startUs, endUs: startUs + pieceLengthUs(piece) };
      startUs = placed.endUs;
      return placed;
    }),
  );
}

/**
 * The piece and the take time that a place of the video shows.
 * @param us 0 … length of the cut; the very end is the end of the last piece
 */
export function at(cut: Cut, us: number): Placed & { takeUs: number } {
  const placed = placedPieces(cut);
  const found = placed.find(({ endUs }) => us < endUs) ?? placed.at(-1);
  if (!found) throw new RangeError('A cut has at least one piece.');
  const { piece, startUs } = found;
  return { ...found, takeUs: Math.max(piece.inUs, Math.min(piece.outUs, piece.inUs + us - startUs)) };
}

/** Where in the video an instant of a take is seen first; null when it was cut. */
export function whereSeen(cut: Cut, take: TakeId, takeUs: number): number | null {
  const found = placedPieces(cut).find(
    ({ piece }) => piece.take === take && piece.inUs <= takeUs && takeUs < piece.outUs,
  );
  return found ? found.startUs + takeUs - found.piece.inUs : null;
}

/** What a lesson begins with: one step with the whole of a take, laid out as its rig says. */
export function defaultCut(
  id: StepId,
  take: { id: TakeId; durationUs: number; camera: CameraPlace | null; gains: Gains },
): Cut {
  return {
    version: 2,
    steps: [
      {
        id,
        title: '',
        pieces: [{ take: take.id, inUs: 0, outUs: Math.max(1, take.durationUs) }],
        layout: layoutOf(take.camera && { place: take.camera }),
        gains: take.gains,
      },
    ],
  };
}

/** Share of a take that a cut shows, 0…1; more where it shows a part of it twice. */
export const shownShare = (cut: Cut, take: { id: TakeId; durationUs: number }): number =>
  placedPieces(cut)
    .filter(({ piece }) => piece.take === take.id)
    .reduce((sum, { piece }) => sum + pieceLengthUs(piece), 0) / Math.max(1, take.durationUs);

/** Bytes of the takes that a cut shows, by the share of their time. */
export const recordedBytes = (
  cut: Cut,
  takes: readonly { id: TakeId; durationUs: number; bytes: number }[],
): number => Math.round(takes.reduce((sum, take) => sum + take.bytes * shownShare(cut, take), 0));

/** Whether two cuts make the same video: the ids of their steps are not seen in it. */
export function makesSameVideo(a: Cut, b: Cut): boolean {
  const seen = ({ steps }: Cut) => steps.map(({ id: _, ...step }) => step);
  return sameValue(seen(a), seen(b));
}

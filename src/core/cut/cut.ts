import { z } from 'zod';
import { StepId, type TakeId } from '../base/ids';
import { sameValue } from '../base/same-value';
import { Layout, layoutOf } from '../layout/layout-kinds';
import type { CameraPlace, Rig } from '../rig/rig';
import { Cover, Zoom } from './area';
import { Envelopes, FLAT } from './envelope';
import { Looks, UNCHANGED_LOOKS } from './looks';
import { MarkChange } from './mark';
import { Piece, pieceLengthUs, shownPieceUs, stepSpeed, takeTimeAt, timeIntoPiece, Us } from './piece';
import { upgradeCut } from './upgrade';

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

/**
 * How a step begins after the one before it. The last picture of that one stands and goes over into the new one: nothing that was cut
 * away is seen again, and no length changes.
 */
export const Entry = z.object({
  kind: z.enum(['dissolve', 'dip']),
  /** Of the step's own beginning. */
  lengthUs: Us.min(40_000).max(5_000_000),
});
export type Entry = z.infer<typeof Entry>;

export const USUAL_ENTRY_US = 600_000;

/** Speeds that a step can be played at; sounds keep their pitch up to twice, and are silent above. */
export const SPEED = { least: 0.25, most: 8, mostHeard: 2 } as const;

export const Step = z.object({
  id: StepId,
  /** Empty until somebody names it: then it is called by its place (`stepTitle`). */
  title: z.string().max(200),
  /** For whoever edits; nobody else sees it. */
  note: z.string().max(2000),
  pieces: z.array(Piece).min(1).max(2000),
  layout: Layout,
  gains: Gains,
  envelopes: Envelopes,
  /** 1: as recorded. */
  speed: z.number().min(SPEED.least).max(SPEED.most),
  zooms: z.array(Zoom).max(200),
  covers: z.array(Cover).max(200),
  looks: Looks,
  /** Null: a straight cut. */
  entry: Entry.nullable(),
});
export type Step = z.infer<typeof Step>;

/** What a step has before anybody changes anything. */
export const PLAIN_STEP = {
  note: '',
  envelopes: FLAT,
  speed: 1,
  zooms: [],
  covers: [],
  looks: UNCHANGED_LOOKS,
  entry: null,
} satisfies Partial<Step>;

/** Whether a step's pictures are seen as they were recorded, one after the other. */
export const isUnchangedPicture = ({ pieces, speed, zooms, covers, looks, entry }: Step): boolean =>
  speed === 1 &&
  entry === null &&
  zooms.length + covers.length === 0 &&
  sameValue(looks, UNCHANGED_LOOKS) &&
  pieces.every(({ heldUs }) => heldUs === undefined);

/** The arrangement of takes that becomes the video. Only ever points into takes; these stay as they were recorded. */
export const Cut = z.preprocess(
  upgradeCut,
  z.object({
    version: z.literal(4),
    steps: z.array(Step).min(1).max(500),
    /** What became of the marks of its takes; those that are as they were recorded are not here. */
    marks: z.array(MarkChange).max(5000),
  }),
);
export type Cut = z.infer<typeof Cut>;

/** What each step is called: its own name, or its place in the order. */
export const stepTitles = ({ steps }: Pick<Cut, 'steps'>): string[] =>
  steps.map(({ title }, index) => title || `Step ${index + 1}`);

/** What one step is called. */
export const stepTitle = (cut: Cut, id: StepId): string =>
  stepTitles(cut)[cut.steps.findIndex((step) => step.id === id)] ?? '';

/** How long a step is in its own time, before its speed. */
export const stepTimeUs = ({ pieces }: Pick<Step, 'pieces'>): number =>
  pieces.reduce((sum, piece) => sum + pieceLengthUs(piece), 0);

/** How long a step is in the video. */
export const stepLengthUs = ({ pieces, speed }: Pick<Step, 'pieces' | 'speed'>): number =>
  pieces.reduce((sum, piece) => sum + shownPieceUs(piece, speed), 0);

/** A step with its place in the video. */
export type PlacedStep = { step: Step; startUs: number; endUs: number };

/** The steps in order; each begins where the one before it ends. */
export function placedSteps({ steps }: Pick<Cut, 'steps'>): PlacedStep[] {
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
export type Placed = {
  step: Step;
  piece: Piece;
  startUs: number;
  endUs: number;
  /** Time of its step at which it begins. */
  stepUs: number;
};

/** Steps are never changed, only replaced: a player asks for the same ones at every frame. */
const placed = new WeakMap<readonly Step[], readonly Placed[]>();

/** All pieces in the order in which they are seen; each begins where the one before it ends. */
export function placedPieces({ steps }: Pick<Cut, 'steps'>): readonly Placed[] {
  const known = placed.get(steps) ?? place(steps);
  placed.set(steps, known);
  return known;
}

function place(steps: readonly Step[]): Placed[] {
  let startUs = 0;
  return steps.flatMap((step) => {
    let stepUs = 0;
    return step.pieces.map((piece) => {
      const own = { step, piece, startUs, endUs: startUs + shownPieceUs(piece, step.speed), stepUs };
      startUs = own.endUs;
      stepUs += pieceLengthUs(piece);
      return own;
    });
  });
}

/** What a place of the video shows. */
export type Here = Placed & {
  /** Of the take. */
  takeUs: number;
  /** Time of the step. */
  hereUs: number;
};

/**
 * The piece, the take time and the step's time that a place of the video shows.
 * @param us 0 … length of the cut; the very end is the end of the last piece
 */
export function at(cut: Pick<Cut, 'steps'>, us: number): Here {
  const pieces = placedPieces(cut);
  const found = pieces.find(({ endUs }) => us < endUs) ?? pieces.at(-1);
  if (!found) throw new RangeError('A cut has at least one piece.');
  return hereIn(found, us);
}

/** What a piece shows at a place of the video that lies in it. */
export function hereIn(placed: Placed, us: number): Here {
  const { step, piece, startUs, stepUs } = placed;
  return {
    ...placed,
    takeUs: takeTimeAt(piece, us - startUs, step.speed),
    hereUs: stepUs + timeIntoPiece(piece, us - startUs, step.speed),
  };
}

/** Where in the video an instant of a take is seen first; null when it was cut. A picture that is held is no instant. */
export function whereSeen(cut: Cut, take: TakeId, takeUs: number): number | null {
  const found = seenIn(cut, take, takeUs);
  return found ? instantInVideo(found, takeUs) : null;
}

/** The piece in which an instant of a take is seen first; null when it was cut. */
export const seenIn = (cut: Cut, take: TakeId, takeUs: number): Placed | null =>
  placedPieces(cut).find(
    ({ piece }) =>
      piece.take === take && piece.heldUs === undefined && piece.inUs <= takeUs && takeUs < piece.outUs,
  ) ?? null;

/**
 * Where in the video an instant is seen that a piece shows. The last one of a quick piece would round to its end, where the next piece
 * is seen already.
 */
export const instantInVideo = (placed: Placed, takeUs: number): number =>
  Math.min(placed.startUs + inVideo(placed, takeUs), placed.endUs - 1);

/** Video time since a piece began at which an instant of its take is seen; its whole length for its out. */
export const inVideo = ({ piece, step }: Placed, takeUs: number): number =>
  Math.round((takeUs - piece.inUs) / stepSpeed(piece, step.speed));

/** The time of a step that a place of it shows. @param intoUs video time since the step began */
export function stepTimeAt({ pieces, speed }: Pick<Step, 'pieces' | 'speed'>, intoUs: number): number {
  let [startUs, stepUs] = [0, 0];
  for (const piece of pieces) {
    const endUs = startUs + shownPieceUs(piece, speed);
    if (intoUs < endUs) return stepUs + timeIntoPiece(piece, intoUs - startUs, speed);
    startUs = endUs;
    stepUs += pieceLengthUs(piece);
  }
  return stepUs;
}

/** Where in the video a time of a step is seen. @returns video time since the step began */
export function shownAt({ pieces, speed }: Pick<Step, 'pieces' | 'speed'>, timeUs: number): number {
  let [startUs, stepUs] = [0, 0];
  for (const piece of pieces) {
    const endUs = stepUs + pieceLengthUs(piece);
    if (timeUs < endUs) return startUs + Math.round(Math.max(0, timeUs - stepUs) / stepSpeed(piece, speed));
    startUs += shownPieceUs(piece, speed);
    stepUs = endUs;
  }
  return startUs;
}

/** What a lesson begins with: one step with the whole of a take, laid out as its rig says. */
export function defaultCut(
  id: StepId,
  take: { id: TakeId; durationUs: number; camera: CameraPlace | null; gains: Gains },
): Cut {
  return {
    version: 4,
    marks: [],
    steps: [
      {
        ...PLAIN_STEP,
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
    .filter(({ piece }) => piece.take === take.id && piece.heldUs === undefined)
    .reduce((sum, { piece }) => sum + pieceLengthUs(piece), 0) / Math.max(1, take.durationUs);

/** Bytes of the takes that a cut shows, by the share of their time. */
export const recordedBytes = (
  cut: Cut,
  takes: readonly { id: TakeId; durationUs: number; bytes: number }[],
): number => Math.round(takes.reduce((sum, take) => sum + take.bytes * shownShare(cut, take), 0));

/** Whether two cuts make the same video: ids and notes of their steps are not seen in it. */
export function makesSameVideo(a: Cut, b: Cut): boolean {
  const seen = ({ steps }: Cut) => steps.map(({ id: _, note: __, ...step }) => step);
  return sameValue(seen(a), seen(b));
}

import { newStepId, type TakeId } from '../base/ids';
import type { StillSpan } from '../recording/still';
import { type Cut, type Placed, placedPieces, placedSteps, inVideo as shownAt } from './cut';
import { changeStep, remove, split } from './edits';
import type { Hand } from './hand';
import { headsAndTails, type Peaks, speechSpans } from './heads-and-tails';
import type { Piece } from './piece';
import { type ZoomProposal, zoomsToClicks } from './zooms-to-clicks';

/** A stretch that can be left out of a video. Times are µs of the video. */
export type CutProposal = { kind: 'stumble' | 'head' | 'tail' | 'pause'; fromUs: number; toUs: number };
/** A stretch in which little happens and nobody speaks: it can be played faster. */
export type FasterProposal = { kind: 'still'; fromUs: number; toUs: number; speed: number };
/** What could be done to a video, found in the waveforms, pictures, marks and events of its takes. */
export type Proposal = CutProposal | FasterProposal | ZoomProposal;

/** What is known of a take. */
export type HeardTake = {
  id: TakeId;
  durationUs: number;
  /** Peaks of its voice; null where there is none. */
  voice: Peaks | null;
  marksUs: readonly number[];
  /** Where little changes on its screen. */
  still: readonly StillSpan[];
  hand: Hand;
};

/** A pause that is longer than `overUs` is shortened to `leaveUs`. */
export type Tightening = { overUs: number; leaveUs: number };

export const USUAL_TIGHTENING: Tightening = { overUs: 1_200_000, leaveUs: 500_000 };

/** A sentence ends at a pause of this length; within one, people pause for less. */
const SENTENCE_US = 550_000;
/** Before speech that goes on, so that its first sound is whole. */
const BREATH_US = 150_000;
/** So little is not worth a cut. */
const LEAST_US = 200_000;
/** Shorter waits are cut, or stay: a change of speed is seen. */
const LEAST_STILL_US = 6_000_000;
/** As long as a wait is worth watching. */
const STILL_SHOWN_US = 2_000_000;
/** Speeds that are proposed. */
const FASTER = [2, 3, 4, 6, 8] as const;

type Span = { startUs: number; endUs: number };
type Trimmed = NonNullable<ReturnType<typeof headsAndTails>>;

/**
 * What could be done: leave out what goes from each mark back to the pause before its sentence, what comes before the first word and
 * after the last, and long pauses; play faster where little happens for long; zoom to where the hand clicked. In the order of the
 * video; nothing that changes its length overlaps another that does.
 */
export function proposals(
  cut: Cut,
  takes: readonly HeardTake[],
  tightening: Tightening = USUAL_TIGHTENING,
): Proposal[] {
  const placed = placedPieces(cut);
  const heard = new Map(
    takes.map((take) => [take.id, { take, speech: take.voice ? speechSpans(take.voice) : [] }]),
  );
  type Shorter = CutProposal | FasterProposal;
  const found = (find: (at: Placed, take: HeardTake, speech: readonly Span[]) => Shorter[]) =>
    placed.flatMap((at) => {
      const own = heard.get(at.piece.take);
      return own ? find(at, own.take, own.speech) : [];
    });
  const all = [
    ...found((at, take, speech) => stumbles(at, take.marksUs, speech)),
    ...headAndTail(cut, takes),
    ...found((at, take, speech) => waits(at, take.still, speech)),
    ...found((at, _, speech) => pauses(at, speech, tightening)),
  ];
  const kept: Shorter[] = [];
  for (const one of all)
    if (one.toUs - one.fromUs >= LEAST_US && kept.every((other) => !overlaps(one, other))) kept.push(one);
  const hands = new Map(takes.map(({ id, hand }) => [id, hand]));
  return [...kept, ...zoomsToClicks(cut, hands)].sort((a, b) => a.fromUs - b.fromUs);
}

/** By how much a video becomes shorter. */
export const gainedUs = (proposal: Proposal): number => {
  const lengthUs = proposal.toUs - proposal.fromUs;
  if (proposal.kind === 'zoom') return 0;
  return proposal.kind === 'still' ? lengthUs - Math.round(lengthUs / proposal.speed) : lengthUs;
};

/** What comes before the first word of the take that the video begins with, and after the last of the one that it ends with. */
export function headAndTail(cut: Cut, takes: readonly HeardTake[]): CutProposal[] {
  const placed = placedPieces(cut);
  const ends = (at: Placed | undefined, find: (at: Placed, trimmed: Trimmed) => CutProposal[]) => {
    const take = takes.find(({ id }) => id === at?.piece.take);
    const trimmed = take && headsAndTails(take.voice, take.marksUs, take.durationUs);
    return at && trimmed ? find(at, trimmed) : [];
  };
  return [
    ...ends(placed[0], (at, { inUs }) => inVideo(at, 'head' as const, at.piece.inUs, inUs)),
    ...ends(placed.at(-1), (at, { outUs }) => inVideo(at, 'tail' as const, outUs, at.piece.outUs)),
  ];
}

/**
 * The cut with what was proposed carried out.
 * @param accepted of this very cut, as `proposals` gives them
 * @param newId ids for the steps that a change of speed makes
 * @throws {ProblemError} `empty-cut` when nothing would be left
 */
export function accept(cut: Cut, accepted: readonly Proposal[], newId = newStepId): Cut {
  // A zoom moves nothing in time; it is cut and played faster with its step.
  const zoomed = accepted.reduce((now, one) => (one.kind === 'zoom' ? withZoom(now, one) : now), cut);
  // From the end on: what lies before keeps its place.
  const shorter = accepted.filter(({ kind }) => kind !== 'zoom').sort((a, b) => b.fromUs - a.fromUs);
  return shorter.reduce(
    (now, one) => (one.kind === 'still' ? faster(now, one, newId) : remove(now, one.fromUs, one.toUs)),
    zoomed,
  );
}

function withZoom(cut: Cut, { step: id, zoom }: ZoomProposal): Cut {
  const zooms = cut.steps.find((step) => step.id === id)?.zooms ?? [];
  return changeStep(cut, id, { zooms: [...zooms, zoom].sort((a, b) => a.fromUs - b.fromUs) });
}

/** Makes a step of its own of a stretch, and plays it faster. */
function faster(cut: Cut, { fromUs, toUs, speed }: FasterProposal, newId: typeof newStepId): Cut {
  const parted = split(split(cut, toUs, newId()), fromUs, newId());
  const own = placedSteps(parted).find(({ startUs }) => startUs >= fromUs);
  return own ? changeStep(parted, own.step.id, { speed }) : parted;
}

type Stretch = { fromUs: number; toUs: number };
const overlaps = (a: Stretch, b: Stretch): boolean => a.fromUs < b.toUs && b.fromUs < a.toUs;

/** A stretch of a take as one of the video, as far as the piece shows it. */
function inVideo<K extends string>(
  at: Placed,
  kind: K,
  fromUs: number,
  toUs: number,
): ({ kind: K } & Stretch)[] {
  const { piece, startUs } = at;
  // A picture that is held is silent because somebody wanted it so.
  if (piece.heldUs !== undefined) return [];
  const [inUs, outUs] = [Math.max(piece.inUs, fromUs), Math.min(piece.outUs, toUs)];
  return inUs < outUs
    ? [{ kind, fromUs: startUs + shownAt(at, inUs), toUs: startUs + shownAt(at, outUs) }]
    : [];
}

/** Where little happens for long and nobody speaks. What plays at a speed of its own is left as it is. */
function waits(at: Placed, still: readonly StillSpan[], speech: readonly Span[]): FasterProposal[] {
  if (at.step.speed !== 1) return [];
  return still
    .flatMap((span) => between(span, speech))
    .flatMap(({ startUs, endUs }) => inVideo(at, 'still' as const, startUs, endUs))
    .filter(({ fromUs, toUs }) => toUs - fromUs >= LEAST_STILL_US)
    .map((one) => ({ ...one, speed: fasterFor(one.toUs - one.fromUs) }));
}

/** The parts of a span in which nobody speaks, with a breath left on either side of what is said. */
function between(span: Span, speech: readonly Span[]): Span[] {
  const said = speech.filter(({ startUs, endUs }) => startUs < span.endUs && endUs > span.startUs);
  const starts = [span.startUs, ...said.map(({ endUs }) => endUs + BREATH_US)];
  const ends = [...said.map(({ startUs }) => startUs - BREATH_US), span.endUs];
  return starts.flatMap((startUs, i) => {
    const endUs = ends[i] ?? 0;
    return startUs < endUs ? [{ startUs, endUs }] : [];
  });
}

const fasterFor = (lengthUs: number): number =>
  FASTER.find((speed) => lengthUs / speed <= STILL_SHOWN_US) ?? FASTER[FASTER.length - 1] ?? 1;

const isShown = ({ inUs, outUs }: Piece, us: number): boolean => inUs <= us && us < outUs;

function stumbles(at: Placed, marksUs: readonly number[], speech: readonly Span[]): CutProposal[] {
  return marksUs
    .filter((markUs) => isShown(at.piece, markUs))
    .flatMap((markUs) => {
      let first = speech.findLastIndex(({ startUs }) => startUs < markUs);
      if (first < 0) return [];
      while (first > 0 && gapBefore(speech, first) < SENTENCE_US) first--;
      const next = speech.find(({ startUs }) => startUs > markUs);
      // Whoever marks while speaking goes on speaking: what comes after the mark stays.
      const isSpeaking = speech.some(({ startUs, endUs }) => startUs < markUs && markUs < endUs);
      const toUs = next && !isSpeaking ? Math.max(markUs, next.startUs - BREATH_US) : markUs;
      return inVideo(at, 'stumble' as const, (speech[first]?.startUs ?? 0) - BREATH_US, toUs);
    });
}

const gapBefore = (speech: readonly Span[], n: number): number =>
  (speech[n]?.startUs ?? 0) - (speech[n - 1]?.endUs ?? 0);

function pauses(at: Placed, speech: readonly Span[], { overUs, leaveUs }: Tightening): CutProposal[] {
  return speech.slice(1).flatMap(({ startUs }, i) => {
    const endUs = speech[i]?.endUs ?? 0;
    // One that a joint lies in was cut already.
    if (startUs - endUs <= overUs || !isShown(at.piece, endUs) || !isShown(at.piece, startUs)) return [];
    return inVideo(at, 'pause' as const, Math.round(endUs + leaveUs / 2), Math.round(startUs - leaveUs / 2));
  });
}

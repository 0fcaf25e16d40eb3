import type { TakeId } from '../base/ids';
import { type Cut, type Placed, placedPieces, inVideo as shownAt } from './cut';
import { remove } from './edits';
import { headsAndTails, type Peaks, speechSpans } from './heads-and-tails';
import type { Piece } from './piece';

/** A stretch that can be left out of a video, found in the waveforms and marks of its takes. */
export type Proposal = {
  kind: 'stumble' | 'head' | 'tail' | 'pause';
  /** µs of the video. */
  fromUs: number;
  toUs: number;
};

/** What is known of a take. `voice`: peaks of its voice, null where there is none. */
export type HeardTake = { id: TakeId; durationUs: number; voice: Peaks | null; marksUs: readonly number[] };

/** A pause that is longer than `overUs` is shortened to `leaveUs`. */
export type Tightening = { overUs: number; leaveUs: number };

export const USUAL_TIGHTENING: Tightening = { overUs: 1_200_000, leaveUs: 500_000 };

/** A sentence ends at a pause of this length; within one, people pause for less. */
const SENTENCE_US = 550_000;
/** Before speech that goes on, so that its first sound is whole. */
const BREATH_US = 150_000;
/** So little is not worth a cut. */
const LEAST_US = 200_000;

type Span = { startUs: number; endUs: number };
type Trimmed = NonNullable<ReturnType<typeof headsAndTails>>;

/**
 * What could be left out: from each mark back to the pause before its sentence, what comes before the first word and after the last,
 * and long pauses. None overlaps another; in the order of the video.
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
  const found = (find: (at: Placed, take: HeardTake, speech: readonly Span[]) => Proposal[]) =>
    placed.flatMap((at) => {
      const own = heard.get(at.piece.take);
      return own ? find(at, own.take, own.speech) : [];
    });
  const all = [
    ...found((at, take, speech) => stumbles(at, take.marksUs, speech)),
    ...headAndTail(cut, takes),
    ...found((at, _, speech) => pauses(at, speech, tightening)),
  ];
  const kept: Proposal[] = [];
  for (const one of all)
    if (one.toUs - one.fromUs >= LEAST_US && kept.every((other) => !overlaps(one, other))) kept.push(one);
  return kept.sort((a, b) => a.fromUs - b.fromUs);
}

/** What comes before the first word of the take that the video begins with, and after the last of the one that it ends with. */
export function headAndTail(cut: Cut, takes: readonly HeardTake[]): Proposal[] {
  const placed = placedPieces(cut);
  const ends = (at: Placed | undefined, find: (at: Placed, trimmed: Trimmed) => Proposal[]) => {
    const take = takes.find(({ id }) => id === at?.piece.take);
    const trimmed = take && headsAndTails(take.voice, take.marksUs, take.durationUs);
    return at && trimmed ? find(at, trimmed) : [];
  };
  return [
    ...ends(placed[0], (at, { inUs }) => inVideo(at, 'head', at.piece.inUs, inUs)),
    ...ends(placed.at(-1), (at, { outUs }) => inVideo(at, 'tail', outUs, at.piece.outUs)),
  ];
}

/**
 * The cut without what was proposed.
 * @param accepted of this very cut, none over another
 * @throws {ProblemError} `empty-cut` when nothing would be left
 */
export const accept = (cut: Cut, accepted: readonly Proposal[]): Cut =>
  [...accepted]
    // From the end on: what lies before keeps its place.
    .sort((a, b) => b.fromUs - a.fromUs)
    .reduce((now, { fromUs, toUs }) => remove(now, fromUs, toUs), cut);

const overlaps = (a: Proposal, b: Proposal): boolean => a.fromUs < b.toUs && b.fromUs < a.toUs;

/** A stretch of a take as one of the video, as far as the piece shows it. */
function inVideo(at: Placed, kind: Proposal['kind'], fromUs: number, toUs: number): Proposal[] {
  const { piece, startUs } = at;
  // A picture that is held is silent because somebody wanted it so.
  if (piece.heldUs !== undefined) return [];
  const [inUs, outUs] = [Math.max(piece.inUs, fromUs), Math.min(piece.outUs, toUs)];
  return inUs < outUs
    ? [{ kind, fromUs: startUs + shownAt(at, inUs), toUs: startUs + shownAt(at, outUs) }]
    : [];
}

const isShown = ({ inUs, outUs }: Piece, us: number): boolean => inUs <= us && us < outUs;

function stumbles(at: Placed, marksUs: readonly number[], speech: readonly Span[]): Proposal[] {
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
      return inVideo(at, 'stumble', (speech[first]?.startUs ?? 0) - BREATH_US, toUs);
    });
}

const gapBefore = (speech: readonly Span[], n: number): number =>
  (speech[n]?.startUs ?? 0) - (speech[n - 1]?.endUs ?? 0);

function pauses(at: Placed, speech: readonly Span[], { overUs, leaveUs }: Tightening): Proposal[] {
  return speech.slice(1).flatMap(({ startUs }, i) => {
    const endUs = speech[i]?.endUs ?? 0;
    // One that a joint lies in was cut already.
    if (startUs - endUs <= overUs || !isShown(at.piece, endUs) || !isShown(at.piece, startUs)) return [];
    return inVideo(at, 'pause', Math.round(endUs + leaveUs / 2), Math.round(startUs - leaveUs / 2));
  });
}

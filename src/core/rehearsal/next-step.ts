import { framesPerSecond } from '../base/rational';
import { sameValue } from '../base/same-value';
import { type Candidate, candidates, type Known } from './candidates';
import { isSlowed, slowdown } from './load';
import type { RehearsalView } from './rehearsal';

/** One change of a rig, and what it is expected to do. */
export type NextStep = Omit<Candidate, 'loss'> & {
  /** What it is expected to do, in figures. */
  effect: string;
  /** Whether the factor was measured in an earlier rehearsal of this lesson. */
  measured: boolean;
};

/** Capture, sound and the program that is shown need their share of the budget as well. */
const SPARE = 0.85;

/** A candidate as far as rehearsals have judged it. */
type Judged = Candidate & Pick<NextStep, 'measured'>;

/**
 * The one step that gives most time for the least clarity: to the stage at fault, or, where nothing is lost but the program that is shown
 * is slowed, to that program. A step that this lesson has rehearsed counts with what it did then, and is not proposed where it did not help.
 * @returns null when nothing is wrong, or nothing is left to try
 */
export function nextStep(known: Known): NextStep | null {
  const { now } = known;
  const [fault] = now.diagnosis.faults;
  if (fault) {
    const all = candidates(fault.stage, known).flatMap((one) => judged(one, known, frameLoad, keepsMore));
    return chosen(all, neededFactor(now), (step) => frameText(step, now));
  }
  if (!isSlowed(now.yardstick)) return null;
  const all = candidates('encoder', known).flatMap((one) => judged(one, known, takenShare, takesLess));
  // Nothing is lost: whatever gives most for what it costs comes first.
  return chosen(all, 0, machineText);
}

/** @param needed the factor that is enough alone; of those the one that costs the viewer least is taken */
function chosen(all: Judged[], needed: number, effectOf: (step: Judged) => string): NextStep | null {
  const enough = all.filter(({ factor }) => factor <= needed).sort((a, b) => a.loss - b.loss);
  // Where none is enough alone, the one that gives most for what it costs comes first; the next rehearsal names the next.
  const most = [...all].sort((a, b) => (1 - b.factor) / (b.loss + 0.02) - (1 - a.factor) / (a.loss + 0.02));
  const [best] = [...enough, ...most];
  return best ? { ...best, effect: effectOf(best) } : null;
}

/** What the time of a busy frame must be multiplied with to fit into its budget. */
function neededFactor({ figures }: RehearsalView): number {
  const ms = figures.busy ? figures.busy.compose + figures.busy.encode : 0;
  return ms > 0 ? Math.min(0.9, (SPARE * 1000) / figures.targetFps / ms) : 0.9;
}

const NOT_MEASURED = 'The gain has not been measured here; the next rehearsal will show it.';

/** What becomes of a frame's time. */
function frameText(
  { id, factor, measured, rig, isGuess }: Judged,
  { figures, rig: of }: RehearsalView,
): string {
  const budget = 1000 / figures.targetFps;
  if (rig && id === 'frame-rate')
    return `Each frame then has ${Math.round((budget * framesPerSecond(of.picture.frameRate)) / framesPerSecond(rig.picture.frameRate))} ms instead of ${Math.round(budget)} ms.`;
  if (!figures.busy || !rig) return 'This frees the processor for the recording.';
  if (isGuess && !measured) return NOT_MEASURED;
  const ms = (figures.busy.compose + figures.busy.encode) * factor;
  return `A busy frame should take about ${Math.round(ms)} ms${measured ? ', as measured in an earlier rehearsal' : ''}.`;
}

/** What becomes of the machine's time. */
function machineText({ factor, measured, isGuess }: Judged): string {
  if (isGuess && !measured) return NOT_MEASURED;
  const less = `${Math.round((1 - factor) * 100)} %`;
  return measured
    ? `In an earlier rehearsal, your program slowed down ${less} less.`
    : `Encoding should use about ${less} less processor time.`;
}

/** Of a frame's budget: at a lower frame rate a frame takes as long, and has more time. */
const frameLoad = ({ figures }: RehearsalView) => figures.encodeP95Ms * figures.targetFps;
const keepsMore = (tried: RehearsalView, now: RehearsalView) =>
  tried.figures.recordedFps / tried.figures.targetFps > now.figures.recordedFps / now.figures.targetFps;

/** What recording takes from the program that is shown. */
const takenShare = ({ yardstick }: RehearsalView) => (yardstick ? slowdown(yardstick) : 0);
const takesLess = (tried: RehearsalView, now: RehearsalView) =>
  tried.yardstick !== null && takenShare(tried) < takenShare(now);

/** The candidate with what an earlier rehearsal of it showed; none where it was rehearsed and did not help. */
function judged(
  candidate: Candidate,
  { now, earlier }: Known,
  load: (of: RehearsalView) => number,
  helps: (tried: RehearsalView, now: RehearsalView) => boolean,
): Judged[] {
  const tried = candidate.rig && earlier.find(({ rig }) => sameValue(rig, candidate.rig));
  const before = load(now);
  if (!tried || before === 0) return [{ ...candidate, measured: false }];
  return helps(tried, now) ? [{ ...candidate, factor: load(tried) / before, measured: true }] : [];
}

import { z } from 'zod';
import { percentile } from '../base/percentile';
import { isSeenLoss } from '../recording/frame-outcome';
import { isLost, isMade, judgedFrames, WARM_UP_US } from './figures';
import { budgetMs, type FrameMark, type RehearsalTrace, type Spell } from './frame-trace';
import { framesOf } from './frames-of';
import { uploadRates } from './upload-rates';

export const Stage = z.enum(['source', 'composition', 'encoder', 'writing', 'upload']);
export type Stage = z.infer<typeof Stage>;

export const StageFault = z.object({
  stage: Stage,
  /** Frames that are not in the file because of it. */
  lost: z.int().min(0),
  /** The figures that say so. */
  evidence: z.string().max(300),
  /** `likely`: other stages explain a part of it as well. */
  sureness: z.enum(['sure', 'likely']),
});
export type StageFault = z.infer<typeof StageFault>;

export const Diagnosis = z.object({
  /** What costs most first; empty when nothing is wrong. */
  faults: z.array(StageFault).max(5),
  /** Frames lost in the first second, while everything warms up. */
  warmUpLost: z.int().min(0),
});
export type Diagnosis = z.infer<typeof Diagnosis>;

/** Frames so near to a lost one say what was going on. */
const NEAR_US = 300_000;
/** A stage that takes this share of the budget for itself leaves the others too little. */
const LARGE_SHARE = 0.5;
/** A frame that arrives this much later than others has been waiting in the source. */
const LATE_MS = 150;
/** A source that rests for longer has nothing to show; a regular beat above this is one that gives too few. */
const SLOWEST_BEAT_MS = 220;
/** So many frames in one beat are no accident of typing or clicking. */
const BEAT_FRAMES = 12;
/** Frames of a grid are this near to their beat; what a hand does is not. */
const BEAT_JITTER = 0.15;
/** An upload that falls behind by this share of what is recorded will not catch up. */
const BEHIND_SHARE = 0.8;

type Attribution = { stage: Stage; lost: number };

/**
 * Which stage cost frames, from the times of the frames themselves. A still screen is no fault: only frames that were made can be lost,
 * and the source is blamed for a low rate only where its frames come in a regular beat that is slower than the target.
 */
export function diagnose(trace: RehearsalTrace): Diagnosis {
  const frames = judgedFrames(trace);
  const made = frames.filter(isMade);
  const lost = made.filter(isLost);
  const shares = attribute(lost, frames, trace);
  const few = tooFew(made, trace);
  if (few) add(shares, 'source', few.missing);
  shares.sort((a, b) => b.lost - a.lost);
  const total = shares.reduce((sum, share) => sum + share.lost, 0);
  const faults: StageFault[] = isSeenLoss(total, made.length + (few?.missing ?? 0))
    ? worthNaming(shares, total).map(({ stage, lost }) => ({
        ...{ stage, lost },
        evidence: evidenceOf(stage, frames, trace, few),
        sureness: lost >= 0.8 * total ? ('sure' as const) : ('likely' as const),
      }))
    : [];
  const late = lateSource(made);
  if (late !== null && !faults.some(({ stage }) => stage === 'source'))
    faults.push({
      ...{ stage: 'source', lost: 0, sureness: 'sure' },
      evidence: `Frames arrive ${Math.round(late)} ms after the source made them.`,
    });
  const upload = uploadRates(trace);
  if (upload && upload.sentKbps < BEHIND_SHARE * upload.recordedKbps)
    faults.push({
      ...{ stage: 'upload', lost: 0, sureness: 'sure' },
      evidence: `The server receives ${rate(upload.sentKbps)} of ${rate(upload.recordedKbps)}.`,
    });
  return {
    faults: faults.sort((a, b) => b.lost - a.lost),
    warmUpLost: framesOf(trace).filter((frame) => frame.tUs < WARM_UP_US && isLost(frame)).length,
  };
}

const rate = (kbps: number): string =>
  kbps >= 1000 ? `${(kbps / 1000).toFixed(1)} Mb/s` : `${Math.round(kbps)} kb/s`;

function add(shares: Attribution[], stage: Stage, lost: number): void {
  const known = shares.find((share) => share.stage === stage);
  if (known) known.lost += lost;
  else shares.push({ stage, lost });
}

/** Stages that lost enough to be seen; where many lost a few each, the one that lost most. */
function worthNaming(shares: readonly Attribution[], total: number): readonly Attribution[] {
  const seen = shares.filter((share) => isSeenLoss(share.lost, total));
  return seen.length > 0 ? seen : shares.slice(0, 1);
}

/** Whose fault each lost frame is. */
function attribute(
  lost: readonly FrameMark[],
  frames: readonly FrameMark[],
  trace: RehearsalTrace,
): Attribution[] {
  const budget = budgetMs(trace);
  const usualDelivery = percentile(
    frames.filter(isMade).map(({ deliveryMs }) => deliveryMs),
    0.1,
  );
  const shares: Attribution[] = [];
  for (const frame of lost) add(shares, stageOf(frame, frames, trace.writes, budget, usualDelivery), 1);
  return shares;
}

function stageOf(
  frame: FrameMark,
  frames: readonly FrameMark[],
  writes: readonly Spell[],
  budget: number,
  usualDelivery: number,
): Stage {
  // A write holds the recorder's own thread: what comes meanwhile piles up before it, and the oldest is gone.
  const isHeldUp = writes.some(
    ({ atUs, ms }) =>
      ms > budget && frame.tUs > atUs - budget * 1000 && frame.tUs < atUs + (ms + 2 * budget) * 1000,
  );
  if (isHeldUp) return 'writing';
  const near = frames.filter(({ tUs, fate }) => fate === 'recorded' && Math.abs(tUs - frame.tUs) < NEAR_US);
  const compose = percentile(
    near.map(({ composeMs }) => composeMs),
    0.5,
  );
  const encode = percentile(
    near.map(({ encodeMs }) => encodeMs),
    0.5,
  );
  // Packets are received on the thread that composes: what composing takes is in their time as well.
  if (compose > LARGE_SHARE * budget && compose > LARGE_SHARE * encode) return 'composition';
  if (frame.fate === 'missed') return 'source';
  // Frames that had to wait in the source come in a bunch, however quick the encoder is.
  const bunched = frame.deliveryMs - usualDelivery > 2 * budget;
  return bunched && encode < budget ? 'source' : 'encoder';
}

/**
 * A source that gives its frames in a regular beat slower than the target.
 * @returns the beat, and how many frames more the target would have had in that time; null where there is no such beat
 */
function tooFew(
  made: readonly FrameMark[],
  trace: RehearsalTrace,
): { beatMs: number; missing: number } | null {
  const budget = budgetMs(trace);
  const steps = made.slice(1).map((frame, i) => (frame.tUs - (made[i]?.tUs ?? 0)) / 1000);
  let [beat, missing, run] = [0, 0, [] as number[]];
  const end = () => {
    const middle = percentile(run, 0.5);
    if (run.length >= BEAT_FRAMES && middle > 1.5 * budget) {
      beat = Math.max(beat, middle);
      missing += Math.round(run.reduce((sum, step) => sum + step / budget - 1, 0));
    }
    run = [];
  };
  for (const step of steps) {
    const usual = run.length === 0 ? step : percentile(run, 0.5);
    if (step > SLOWEST_BEAT_MS || Math.abs(step - usual) > BEAT_JITTER * usual) end();
    if (step <= SLOWEST_BEAT_MS) run.push(step);
  }
  end();
  return missing > 0 ? { beatMs: beat, missing } : null;
}

/** How late the source usually is, ms, where that is more than a frame can be dated back; null otherwise. */
function lateSource(made: readonly FrameMark[]): number | null {
  const late = percentile(
    made.map(({ deliveryMs }) => deliveryMs),
    0.5,
  );
  return late > LATE_MS ? late : null;
}

function evidenceOf(
  stage: Stage,
  frames: readonly FrameMark[],
  trace: RehearsalTrace,
  few: ReturnType<typeof tooFew>,
): string {
  const budget = budgetMs(trace);
  const near = (pick: (frame: FrameMark) => number) => {
    const lost = frames.filter(isLost);
    const beside = frames.filter(
      ({ tUs, fate }) => fate === 'recorded' && lost.some((one) => Math.abs(one.tUs - tUs) < NEAR_US),
    );
    return Math.round(percentile(beside.map(pick), 0.5));
  };
  const of = `${Math.round(budget)} ms`;
  if (stage === 'encoder')
    return `Encoding takes ${near(({ encodeMs }) => encodeMs)} ms/frame where frames are dropped; the budget is ${of}.`;
  if (stage === 'composition')
    return `Compositing takes ${near(({ composeMs }) => composeMs)} ms/frame; the budget is ${of} for all stages.`;
  if (stage === 'writing') {
    const most = Math.max(0, ...trace.writes.map(({ ms }) => ms));
    return `Writing to this computer’s disk takes up to ${Math.round(most)} ms at a time; a frame has ${of}.`;
  }
  if (few)
    return `The source gives ${(1000 / few.beatMs).toFixed(0)} fps; the target is ${Math.round(trace.targetFps)} fps.`;
  const missed = frames.filter(({ fate }) => fate === 'missed').length;
  return missed > 0
    ? `${missed} frames never arrived from the source.`
    : `Frames arrive in bunches, up to ${Math.round(Math.max(0, ...frames.map(({ deliveryMs }) => deliveryMs)))} ms late.`;
}

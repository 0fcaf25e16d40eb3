import { type FrameRate, frameTimeUs } from '../base/rational';
import { type Gains, SPEED } from '../cut/cut';
import { type EnvelopePoint, type Envelopes, eachSound, envelopeBetween, FLAT } from '../cut/envelope';
import { type Piece, pieceLengthUs } from '../cut/piece';
import type { SoundInput } from './take-sources';
import type { PiecedFrames } from './timeline';

/** All sound is mixed at this rate. */
export const MIX_RATE = 48_000;
/** Sound is looked for this far beside a piece: a source may begin late or end early. */
export const SOUND_LEAD_US = 500_000;

/** The sound of one piece. */
export type SoundPiece = {
  /** Recorded sounds; none when nothing was recorded there and all of it is silence. */
  inputs: SoundInput[];
  gains: Gains;
  /** On the piece's own clock in the video. */
  envelopes: Envelopes;
  /** Take time of its first sample. */
  originUs: number;
  /** Played so much faster, at the same pitch. */
  speed: number;
  /** Exactly so many samples a channel. */
  samples: number;
  /** Whether it begins and ends where sound is cut. */
  fade: { in: boolean; out: boolean };
};

/** The part of a step's envelope that a piece is heard with, from its first sample on. */
const heardPoints = (
  points: readonly EnvelopePoint[],
  stepUs: number,
  piece: Piece,
  speed: number,
): EnvelopePoint[] =>
  envelopeBetween(points, stepUs, stepUs + pieceLengthUs(piece)).map(({ atUs, gainDb }) => ({
    atUs: Math.round(atUs / (speed || 1)),
    gainDb,
  }));

const sampleOf = (frame: number, rate: FrameRate): number =>
  Math.round((frameTimeUs(frame, rate) * MIX_RATE) / 1e6);

/**
 * The sound of one piece: which recorded sounds, how loud, and as many samples as its frames are long. The sums over a timeline are exact:
 * a piece ends on the sample on which the next one begins.
 * @param tracks which of them are heard
 * @param gains other than the step's own
 * @param fadeOut whether something else follows
 */
export function soundPiece(
  { piece, originUs, firstFrame, frames, step, speed, stepUs, continues }: PiecedFrames,
  sounds: readonly SoundInput[],
  tracks: readonly SoundInput['track'][],
  gains: Gains | null,
  rate: FrameRate,
  fadeOut: boolean,
): SoundPiece {
  const isHeard = speed > 0 && speed <= SPEED.mostHeard;
  const inputs = sounds.filter(
    ({ track, startUs, endUs }) =>
      tracks.includes(track) && startUs < piece.outUs + SOUND_LEAD_US && endUs > piece.inUs - SOUND_LEAD_US,
  );
  return {
    inputs: isHeard ? inputs : [],
    gains: gains ?? step.gains,
    envelopes: gains
      ? FLAT
      : eachSound(step.envelopes, (points) => heardPoints(points, stepUs, piece, speed)),
    ...{ originUs, speed },
    samples: sampleOf(firstFrame + frames, rate) - sampleOf(firstFrame, rate),
    fade: { in: !continues, out: fadeOut },
  };
}

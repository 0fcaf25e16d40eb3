import { integratedLufs, STEPS_A_SECOND } from '../audio/loudness';
import type { TakeId } from '../base/ids';
import type { SoundKind } from '../recording/take';
import { SPEED, type Step } from './cut';
import { envelopeDb } from './envelope';
import { mixOf } from './mix';
import { pieceLengthUs } from './piece';

/** Loudness of each tenth of a second of a take's sound, tenths of LUFS (`server/media/sound-curves.ts`). */
export type LoudnessCurve = readonly number[];

/** The mean square that has a loudness: annex 1 of BS.1770, equation 2, turned round. */
const meanSquare = (lufs: number): number => 10 ** ((lufs + 0.691) / 10);

/**
 * How loud a sound of a step is as it is heard, with its gain and its envelope: programme loudness, gated (Recommendation ITU-R BS.1770-4).
 * Speed changes a sound's length and not its loudness.
 * @param curveOf the sound's curve in a take; undefined where it has none, or none is known
 * @returns LUFS; null for silence, and where nothing is known
 */
export function stepLoudness(
  step: Pick<Step, 'pieces' | 'gains' | 'envelopes' | 'speed'>,
  sound: SoundKind,
  curveOf: (take: TakeId) => LoudnessCurve | undefined,
): number | null {
  if (step.speed > SPEED.mostHeard) return null;
  const { gainDb, points } = mixOf(step, sound);
  const stepUs = 1e6 / STEPS_A_SECOND;
  const steps: number[] = [];
  let pieceUs = 0;
  for (const piece of step.pieces) {
    const curve = piece.heldUs === undefined ? curveOf(piece.take) : undefined;
    const first = Math.floor(piece.inUs / stepUs);
    const until = Math.ceil(piece.outUs / stepUs);
    if (curve)
      for (let i = first; i < Math.min(until, curve.length); i++) {
        const hereUs = pieceUs + Math.max(0, (i + 0.5) * stepUs - piece.inUs);
        steps.push(meanSquare((curve[i] as number) / 10 + gainDb + envelopeDb(points, hereUs)));
      }
    pieceUs += pieceLengthUs(piece);
  }
  const lufs = integratedLufs(steps);
  return Number.isFinite(lufs) ? lufs : null;
}

import { integratedLufs, STEPS_A_SECOND } from '../audio/loudness';
import type { TakeId } from '../base/ids';
import { SPEED, type Step } from './cut';
import { type EnvelopeSound, envelopeDb } from './envelope';
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
  { pieces, gains, envelopes, speed }: Pick<Step, 'pieces' | 'gains' | 'envelopes' | 'speed'>,
  sound: EnvelopeSound,
  curveOf: (take: TakeId) => LoudnessCurve | undefined,
): number | null {
  if (speed > SPEED.mostHeard) return null;
  const gainDb = sound === 'voice' ? gains.voiceDb : gains.appSoundDb;
  const stepUs = 1e6 / STEPS_A_SECOND;
  const steps: number[] = [];
  let pieceUs = 0;
  for (const piece of pieces) {
    const curve = piece.heldUs === undefined ? curveOf(piece.take) : undefined;
    const first = Math.floor(piece.inUs / stepUs);
    const until = Math.ceil(piece.outUs / stepUs);
    if (curve)
      for (let i = first; i < Math.min(until, curve.length); i++) {
        const hereUs = pieceUs + Math.max(0, (i + 0.5) * stepUs - piece.inUs);
        steps.push(meanSquare((curve[i] as number) / 10 + gainDb + envelopeDb(envelopes[sound], hereUs)));
      }
    pieceUs += pieceLengthUs(piece);
  }
  const lufs = integratedLufs(steps);
  return Number.isFinite(lufs) ? lufs : null;
}

import { gainOf } from '@/core/base/decibels';
import { type EnvelopePoint, envelopeDb } from '@/core/cut/envelope';
import type { DecodedSound } from './reels';

/** The gain changes as often as when it is rendered (`sound-graph.ts`). */
const TOLD_MS = 1;

/**
 * A sound as loud as an envelope says.
 * @param stepUs time of the step at its first sample
 * @param speed at which the step's time passes
 */
export function enveloped(
  sound: DecodedSound,
  points: readonly EnvelopePoint[],
  stepUs: number,
  speed: number,
): DecodedSound {
  if (points.length === 0) return sound;
  const told = Math.round((sound.sampleRate * TOLD_MS) / 1000);
  const gainAt = (sample: number) => {
    const us = stepUs + ((sample - (sample % told)) * 1e6 * speed) / sound.sampleRate;
    return gainOf(envelopeDb(points, us));
  };
  const planes = sound.planes.map((plane) => {
    const louder = new Float32Array(plane.length);
    let gain = 1;
    for (let i = 0; i < plane.length; i++) {
      if (i % told === 0) gain = gainAt(i);
      louder[i] = (plane[i] ?? 0) * gain;
    }
    return louder;
  });
  return { ...sound, planes };
}

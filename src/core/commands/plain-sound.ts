import type { PlainInput } from '../deliver/plain-input';
import type { Rig } from '../rig/rig';
import { type InputList, openInput } from './input-list';
import { seconds } from './seconds';

/**
 * All sounds of a take from its time 0, as loud as the rig says; the limiter only catches what would clip.
 * @param inputs to which the sounds are added
 * @param phaseUs by which the picture was moved, and the sound with it
 * @returns the chains that make `[mix]` of them; none where there is no sound
 */
export function soundMix(
  sounds: readonly PlainInput[],
  rig: Rig,
  inputs: InputList,
  phaseUs: number,
): string[] {
  if (sounds.length === 0) return [];
  const chains = sounds.map((sound, i) => {
    // The files' times are the take's times. Sound is moved forward by what its encoder put before the first sample.
    const offset = ['-itsoffset', seconds(-phaseUs - sound.encoderDelayUs)];
    const number = openInput(inputs, sound.path, offset);
    const gainDb = (sound.track === 'app-sound' ? rig.appSound : rig.voice)?.gainDb ?? 0;
    return `[${number}:a]aresample=48000:async=1:first_pts=0,volume=${gainDb}dB[sound${i}]`;
  });
  const all = sounds.map((_, i) => `[sound${i}]`).join('');
  return [
    ...chains,
    `${all}amix=inputs=${sounds.length}:duration=longest:normalize=0,alimiter=limit=0.94:level=disabled:latency=1[mix]`,
  ];
}

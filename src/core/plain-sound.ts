import type { PlainInput } from './plain-input';
import type { Rig } from './rig';

const seconds = (us: number) => (us / 1e6).toFixed(6);

/** How the sounds of a take are mixed: inputs, and the chains that make `[mix]` of them. */
export type SoundMix = { files: string[]; chains: string[] };

/**
 * All sounds of a take from its time 0, as loud as the rig says; the limiter only catches what would clip.
 * @param before how many inputs stand before these
 * @param phaseUs by which the picture was moved, and the sound with it
 */
export function soundMix(sounds: readonly PlainInput[], rig: Rig, before: number, phaseUs: number): SoundMix {
  if (sounds.length === 0) return { files: [], chains: [] };
  // The files' times are the take's times. Sound is moved forward by what its encoder put before the first sample.
  const files = sounds.flatMap((input) => [
    '-itsoffset',
    seconds(-phaseUs - input.encoderDelayUs),
    '-i',
    input.path,
  ]);
  const chains = sounds.map((sound, i) => {
    const gainDb = (sound.track === 'app-sound' ? rig.appSound : rig.voice)?.gainDb ?? 0;
    return `[${before + i}:a]aresample=48000:async=1:first_pts=0,volume=${gainDb}dB[sound${i}]`;
  });
  const all = sounds.map((_, i) => `[sound${i}]`).join('');
  chains.push(
    `${all}amix=inputs=${sounds.length}:duration=longest:normalize=0,alimiter=limit=0.94:level=disabled:latency=1[mix]`,
  );
  return { files, chains };
}

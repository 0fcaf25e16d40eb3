import { DESTINATIONS } from '../destination/destination';
import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** Sound at a low rate stays dull wherever it goes: what a rate cannot carry is not there any more. */
export const rateLow: Finder = (rig) => {
  const { sampleRate } = rig.sound;
  // Sound that is only recorded is chosen for what it is.
  if (sampleRate === null || rig.picture.source.from === 'none') return null;
  const asking = DESTINATIONS.filter(({ sound }) => sound.sampleRate > sampleRate);
  if (sampleRate >= 44_100 || asking.length === 0) return null;
  return {
    id: 'rate-low',
    weight: 'note',
    sentence: `At ${sampleRate / 1000} kHz, everything above ${sampleRate / 2000} kHz is lost; ${asking.length} of ${DESTINATIONS.length} destinations use 48 kHz.`,
    advice: 'Record at 48 kHz, the standard for video.',
    fix: (old) => withValue(old, 'sound.sampleRate', 48_000),
    about: 'voice',
  };
};

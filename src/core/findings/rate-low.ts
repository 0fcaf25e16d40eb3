import { DESTINATIONS } from '../destination';
import { withValue } from '../rig-choices';
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
    sentence: `At ${sampleRate / 1000} kHz nothing above ${sampleRate / 2000} kHz is kept, and ${asking.length} of ${DESTINATIONS.length} destinations are made at 48 kHz: there it is only filled up.`,
    fix: 'Keep 48 kHz, the standard of video.',
    mend: (old) => withValue(old, 'sound.sampleRate', 48_000),
    about: 'voice',
  };
};

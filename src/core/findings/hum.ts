import { dbText } from '../base/decibels';
import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** The mains are in the sound: a cable, a plug, a lamp. */
export const hum: Finder = (rig, { sources: { voice } }) => {
  const found = voice?.heard?.hum ?? voice?.test?.hum;
  // Steady as it is, noise reduction takes it out.
  if (!rig.voice || !found || rig.voice.treatment.denoise) return null;
  return {
    id: 'hum',
    weight: 'note',
    sentence: `Mains hum at ${found.hertz} Hz, ${dbText(found.levelDb)} dBFS: audible in every pause.`,
    advice: 'Turn on noise reduction. Another outlet or cable may remove the hum.',
    fix: (old) => withValue(old, 'voice.treatment.denoise', true),
    about: 'voice',
  };
};

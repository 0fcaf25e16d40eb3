import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** Two channels of one microphone are the same sound twice, or one of them is silent. */
export const oneMicrophone: Finder = (rig, { sources: { voice } }) => {
  if (rig.voice?.channels !== 2 || !voice?.heard?.oneChannel) return null;
  return {
    id: 'one-microphone',
    weight: 'warn',
    sentence:
      voice.heard.oneChannel === 'same'
        ? 'Both channels of the voice are identical: mono sounds the same with half the data.'
        : 'One channel of the voice is silent: viewers will hear it on one side only.',
    advice: 'Record mono.',
    fix: (old) => withValue(old, 'voice.channels', 1),
    about: 'voice',
  };
};

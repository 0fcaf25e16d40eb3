import { isRealTime } from '../rig/rig';
import { speedText } from '../rig/rig-choices';
import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** Sound stays with the picture only where the film runs as fast as the work. */
export const soundOffSpeed: Finder = (rig) => {
  if (isRealTime(rig.picture.speed) || (!rig.voice && !rig.appSound)) return null;
  return {
    id: 'sound-off-speed',
    weight: 'warn',
    sentence: `No sound will be recorded: ${speedText(rig.picture.speed)}.`,
    advice: 'Record in real time.',
    fix: (old) => withValue(old, 'picture.speed', { num: 1, den: 1 }),
    about: 'voice',
  };
};

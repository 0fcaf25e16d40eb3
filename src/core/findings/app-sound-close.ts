import { tooClose, underVoice } from '../audio/sound-heard';
import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** Programs that are as loud as the teacher are in the way of what is said. */
export const appSoundClose: Finder = (rig, { sources }) => {
  const [voice, app] = [sources.voice?.heard, sources['app-sound']?.heard];
  if (!rig.appSound || !voice || !app) return null;
  const { gainDb } = rig.appSound;
  const under = underVoice(voice, app, gainDb);
  if (under === null || !tooClose(under)) return null;
  const quieter = Math.max(-60, Math.round(gainDb - (12 - under)));
  return {
    id: 'app-sound-close',
    weight: 'warn',
    sentence: `App sound is ${under < 0 ? 'louder than the voice' : `only ${Math.round(under)} LU under the voice`}.`,
    advice: `Set its gain to −${-quieter} dB.`,
    fix: (old) => withValue(old, 'appSound.gainDb', quieter),
    about: 'app-sound',
  };
};

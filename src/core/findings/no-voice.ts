import { dbText } from '../base/decibels';
import { firstVoice, PRACTICE_RIG } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** Under this nobody speaks and no room is heard: the microphone is off, or it is another one. */
export const SILENT_DB = -70;

/** A lesson without a voice, unless its purpose has none. */
export const noVoice: Finder = (rig, { sources: { voice } }) => {
  if (!rig.voice)
    return rig.purpose?.kind === 'loop'
      ? null
      : {
          id: 'no-voice',
          weight: 'warn',
          sentence: 'No voice will be recorded.',
          advice: 'Add a microphone.',
          fix: (old) => withValue(old, 'voice', firstVoice({ from: 'device', id: '', label: '' })),
          about: 'voice',
        };
  if (voice?.state !== 'open' || voice.loudestDb === undefined || voice.loudestDb > SILENT_DB) return null;
  const practice = rig.voice.source.from === 'practice';
  return {
    id: 'no-voice',
    weight: 'warn',
    sentence: `The ${practice ? 'practice voice' : 'microphone'} is silent: its loudest peak was ${dbText(voice.loudestDb)} dBFS.`,
    advice: practice
      ? 'Say something, or choose another microphone.'
      : 'Say something, or use the practice voice.',
    fix: practice ? undefined : (old) => withValue(old, 'voice', PRACTICE_RIG.voice),
    about: 'voice',
  };
};

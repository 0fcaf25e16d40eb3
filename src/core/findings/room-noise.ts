import { lufsText, noisyRoom } from '../audio/sound-heard';
import type { Finder } from './finding';

/** Room noise, such as a fan or a street, that is audible in pauses. */
export const roomNoise: Finder = (rig, { sources: { voice } }) => {
  const heard = voice?.heard;
  if (!rig.voice || !heard || heard.quietLufs === null) return null;
  const under = noisyRoom(heard);
  if (under === null) return null;
  return {
    id: 'room-noise',
    weight: 'note',
    sentence: `Room noise is at ${lufsText(heard.quietLufs)}, ${Math.round(under)} LU below the voice: audible.`,
    advice: 'Move closer to the microphone, or turn off what makes the noise.',
    about: 'voice',
  };
};

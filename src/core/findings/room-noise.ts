import { dbText } from '../decibels';
import { noisyRoom } from '../sound-heard';
import type { Finder } from './finding';

/** A fan, a street, a computer: what is heard whenever nobody speaks. */
export const roomNoise: Finder = (rig, { sources: { voice } }) => {
  const heard = voice?.heard;
  if (!rig.voice || !heard || heard.quietLufs === null) return null;
  const under = noisyRoom(heard);
  if (under === null) return null;
  return {
    id: 'room-noise',
    weight: 'note',
    sentence: `The room is at ${dbText(heard.quietLufs)} dB, ${Math.round(under)} under the voice: near enough to be heard.`,
    fix: 'Go nearer to the microphone, or silence what hums.',
    about: 'voice',
  };
};

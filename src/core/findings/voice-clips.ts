import type { Finder } from './finding';

/** What clips is broken for good: no later step brings it back. */
export const voiceClips: Finder = (rig, { sources: { voice } }) => {
  const runs = voice?.heard?.clipped ?? 0;
  if (!rig.voice || runs === 0) return null;
  return {
    id: 'voice-clips',
    weight: 'warn',
    sentence: `The voice clipped ${runs === 1 ? 'once' : `${runs} times`}: it is too loud.`,
    advice: 'Turn the microphone down, or move away from it.',
    about: 'voice',
  };
};

import type { Finder } from './finding';

/** What clips is broken for good: no later step brings it back. */
export const voiceClips: Finder = (rig, { sources: { voice } }) => {
  const runs = voice?.heard?.clipped ?? 0;
  if (!rig.voice || runs === 0) return null;
  return {
    id: 'voice-clips',
    weight: 'warn',
    sentence: `The voice clips: ${runs === 1 ? 'once' : `${runs} times`} it was louder than a file can hold.`,
    fix: 'Turn the microphone down, or go further from it.',
    about: 'voice',
  };
};

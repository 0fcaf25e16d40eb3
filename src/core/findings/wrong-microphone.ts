import { louderMicrophone } from '../recording/sound-test';
import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** The test heard the voice much louder through another microphone. */
export const wrongMicrophone: Finder = (rig, { sources: { voice } }) => {
  const test = voice?.test;
  const other = rig.voice && test && louderMicrophone(test);
  if (!other) return null;
  return {
    id: 'wrong-microphone',
    weight: 'warn',
    sentence: `“${other.label}” picked you up ${Math.round(other.lufs - (test.lufs ?? -70))} LU louder than “${test.label}”.`,
    advice: `Use “${other.label}”.`,
    fix: (old) => withValue(old, 'voice.source', other.source),
    about: 'voice',
  };
};

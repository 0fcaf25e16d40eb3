import { withValue } from '../rig-choices';
import type { Finder, Finding } from './finding';

/** More bits or a higher rate than a source gives are empty: the file grows, and nothing is gained. */
export const moreThanSource: Finder = (rig, { sources: { voice } }) => {
  const { codec, sampleRate } = rig.sound;
  const gives = voice?.gives;
  if (!rig.voice || !gives) return null;
  const found: Finding[] = [];
  if (codec === 'pcm-24' && gives.bits !== null && gives.bits <= 16)
    found.push({
      id: 'more-than-source',
      weight: 'note',
      sentence: `24 bits are kept of a microphone that gives ${gives.bits}: half as much data again, and nothing in it.`,
      fix: 'Keep 16 bits.',
      mend: (old) => withValue(old, 'sound.codec', 'pcm'),
      about: 'voice',
    });
  if (sampleRate !== null && gives.sampleRate !== null && sampleRate > gives.sampleRate)
    found.push({
      id: 'more-than-source',
      weight: 'note',
      sentence: `${sampleRate / 1000} kHz are kept of a microphone that gives ${gives.sampleRate / 1000}: what is added is empty.`,
      fix: 'Keep what the device gives.',
      mend: (old) => withValue(old, 'sound.sampleRate', null),
      about: 'voice',
    });
  return found;
};

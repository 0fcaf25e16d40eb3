import { withValue } from '../rig/rig-values';
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
      sentence: `The microphone delivers ${gives.bits} bit: recording 24 bit adds half as much data and no detail.`,
      advice: 'Record 16 bit.',
      fix: (old) => withValue(old, 'sound.codec', 'pcm'),
      about: 'voice',
    });
  if (sampleRate !== null && gives.sampleRate !== null && sampleRate > gives.sampleRate)
    found.push({
      id: 'more-than-source',
      weight: 'note',
      sentence: `The microphone delivers ${gives.sampleRate / 1000} kHz: recording ${sampleRate / 1000} kHz adds no detail.`,
      advice: 'Record at the rate of the device.',
      fix: (old) => withValue(old, 'sound.sampleRate', null),
      about: 'voice',
    });
  return found;
};

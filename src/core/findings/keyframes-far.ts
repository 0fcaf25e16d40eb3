import { keyframeDistance } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** Cutting and seeking begin at keyframes; uploads expect one every two seconds. */
const FAR_S = 4;

/** Keyframes so far apart that a cut must encode long stretches again. */
export const keyframesFar: Finder = (rig) => {
  if (rig.picture.source.from === 'none') return null;
  const limit = rig.purpose?.kind === 'editor' ? 1 : FAR_S;
  const { s } = keyframeDistance(rig.picture);
  if (s <= limit) return null;
  const near = rig.purpose?.kind === 'editor' ? 0.5 : 2;
  return {
    id: 'keyframes-far',
    weight: 'warn',
    sentence: `Keyframes are ${Number(s.toFixed(1))} s apart: seeking and cutting will be slow.`,
    advice: `Set the interval to ${near} s.`,
    fix: (old) => withValue(old, 'picture.keyframeEvery', { unit: 'seconds', value: near }),
    about: 'screen',
  };
};

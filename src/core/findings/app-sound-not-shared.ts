import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** Sound that should come with the picture, from a kind of source that shares none. */
export const appSoundNotShared: Finder = (rig) => {
  if (rig.appSound?.source.from !== 'screen') return null;
  const { source } = rig.picture;
  const kind =
    source.from === 'practice'
      ? 'A practice display'
      : source.from === 'none'
        ? 'A recording without a picture'
        : source.meant === 'window'
          ? 'One window'
          : null;
  if (!kind) return null;
  return {
    id: 'app-sound-not-shared',
    weight: 'warn',
    sentence: `${kind} cannot share sound: programs will be silent.`,
    advice: source.from === 'screen' ? 'Share a browser tab instead.' : 'Record without app sound.',
    fix: (old) =>
      source.from === 'screen'
        ? withValue(old, 'picture.source', { from: 'screen', meant: 'tab' })
        : withValue(old, 'appSound', null),
    about: 'app-sound',
  };
};

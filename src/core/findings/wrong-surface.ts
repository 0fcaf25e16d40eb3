import type { Surface } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

export const SURFACE_NAMES: Record<Surface, string> = {
  display: 'a whole display',
  window: 'one window',
  tab: 'a browser tab',
};

/** The browser's picker shared another kind of surface than the rig names. */
export const wrongSurface: Finder = ({ picture: { source } }, facts) => {
  const shared = facts.sources.screen?.shared;
  if (source.from !== 'screen' || !shared || shared === source.meant) return null;
  return {
    id: 'wrong-surface',
    weight: 'warn',
    sentence: `You chose ${SURFACE_NAMES[source.meant]} but shared ${SURFACE_NAMES[shared]}.`,
    advice: `Record ${SURFACE_NAMES[shared]}.`,
    fix: (rig) => withValue(rig, 'picture.source', { from: 'screen', meant: shared }),
    about: 'screen',
  };
};

import type { Surface } from '../rig';
import { withValue } from '../rig-choices';
import type { Finder } from './finding';

export const SURFACE_NAMES: Record<Surface, string> = {
  display: 'a whole display',
  window: 'one window',
  tab: 'a browser tab',
};

/** The picker has the last word: what it gave is another kind of thing than was meant. */
export const wrongSurface: Finder = ({ picture: { source } }, facts) => {
  const came = facts.sources.screen?.came;
  if (source.from !== 'screen' || !came || came === source.meant) return null;
  return {
    id: 'wrong-surface',
    weight: 'warn',
    sentence: `Meant was ${SURFACE_NAMES[source.meant]}; shared was ${SURFACE_NAMES[came]}.`,
    fix: `Let it be ${SURFACE_NAMES[came]}.`,
    mend: (rig) => withValue(rig, 'picture.source', { from: 'screen', meant: came }),
    about: 'screen',
  };
};

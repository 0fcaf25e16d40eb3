import { fillPattern, NO_NAME_FACTS, nameChanges } from '../names';
import type { Finder } from './finding';

/** Free text in a name pattern that some file system does not take: the file is called otherwise, and that is said before. */
export const unsafeName: Finder = (rig) => {
  const changes = nameChanges(fillPattern(rig.names.pattern, NO_NAME_FACTS));
  if (changes.length === 0) return null;
  return {
    id: 'unsafe-name',
    weight: 'note',
    sentence: `The file name has ${changes.join(' and ')}, which not every system takes: it is left out of the name.`,
    fix: 'Write it otherwise under File.',
    about: 'storage',
  };
};

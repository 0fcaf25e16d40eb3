import { fillPattern, NO_NAME_FACTS, nameChanges } from '../base/names';
import type { Finder } from './finding';

/** Free text in a name pattern that some file system does not take: the file is called otherwise, and that is said before. */
export const unsafeName: Finder = (rig) => {
  const changes = nameChanges(fillPattern(rig.names.pattern, NO_NAME_FACTS));
  if (changes.length === 0) return null;
  return {
    id: 'unsafe-name',
    weight: 'note',
    sentence: `The file name contains ${changes.join(' and ')}, which some systems reject: it is left out.`,
    advice: 'Change the name under File.',
    about: 'storage',
  };
};

import { rehearsalVerdict } from '../rehearsal/verdict';
import type { Rig } from '../rig/rig';
import { differences } from '../rig/rig-choices';
import type { Facts, Finder } from './finding';

/** Choices that weigh on how fast a machine records. */
const WEIGHS = /^(picture|camera|voice|appSound|sound)\b/;

/** Whether two rigs are the same in all that weighs. */
export const recordsAlike = (a: Rig, b: Rig): boolean =>
  !differences(a, b).some(({ path }) => WEIGHS.test(path));

/** The newest rehearsal that is known, where it was of such a rig; null otherwise. */
export const rehearsalOf = (rig: Rig, { rehearsal }: Pick<Facts, 'rehearsal'>): Facts['rehearsal'] =>
  rehearsal && recordsAlike(rig, rehearsal.of.rig) ? rehearsal : null;

/** What a rehearsal of this very rig has shown. */
export const rehearsed: Finder = (rig, facts) => {
  const found = rehearsalOf(rig, facts);
  if (!found) return null;
  const { kind, sentence, detail } = rehearsalVerdict(found.of);
  return {
    id: 'rehearsed',
    weight: kind === 'good' ? 'note' : 'warn',
    sentence: `Rehearsed ${found.ago}: ${sentence.charAt(0).toLowerCase()}${sentence.slice(1)}`,
    advice: kind === 'good' ? undefined : (detail ?? 'Rehearse again after one change.'),
    about: 'screen',
  };
};

import { isRealTime, PRACTICE_RIG, type Rig } from '../rig';
import { withValue } from '../rig-choices';
import { TRACK_NAMES, type TrackKind } from '../take';
import type { Finder, Finding, SourceState } from './finding';

/** What each source says of itself: failed, still being opened, other than was meant, or not there at all. */
export const sourcesNotReady: Finder = (rig, facts) => {
  const found: Finding[] = [];
  const add = (finding: Omit<Finding, 'id'>) => found.push({ id: 'sources-not-ready', ...finding });
  const silent = !isRealTime(rig.picture.speed);
  for (const [role, source] of Object.entries(facts.sources) as [TrackKind, SourceState][]) {
    if (silent && (role === 'voice' || role === 'app-sound')) continue;
    if (source.state === 'failed' && source.problem)
      add({
        weight: role === 'screen' ? 'stop' : 'warn',
        sentence: `${TRACK_NAMES[role]}: ${source.problem.message}`,
        fix: source.problem.hint,
        about: role,
      });
    if (source.state === 'opening' && role !== 'screen')
      add({
        weight: 'warn',
        sentence: `${TRACK_NAMES[role]} is being opened …`,
        fix: 'One that comes late joins the take then.',
        about: role,
      });
    if (source.remark) add({ weight: 'warn', sentence: source.remark, about: role });
  }
  const { screen } = facts.sources;
  if (rig.picture.source.from !== 'none' && !facts.browser && (!screen || screen.state === 'absent'))
    add(
      rig.picture.source.from === 'screen'
        ? {
            weight: 'stop',
            sentence: 'Nothing is aimed at yet: choose it in the browser’s own picker.',
            fix: 'Take the practice desk instead.',
            mend: practiceDesk,
            about: 'screen',
          }
        : { weight: 'stop', sentence: 'The practice display is being opened …', about: 'screen' },
    );
  if (rig.picture.source.from === 'none' && !rig.voice && !rig.appSound)
    add({
      weight: 'stop',
      sentence: 'Neither a picture nor a sound is chosen: there is nothing to record.',
      fix: 'Take the practice desk.',
      mend: practiceDesk,
      about: 'screen',
    });
  return found;
};

const practiceDesk = (rig: Rig): Rig => withValue(rig, 'picture.source', PRACTICE_RIG.picture.source);

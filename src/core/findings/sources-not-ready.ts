import { TRACK_NAMES, type TrackKind } from '../recording/take';
import { isRealTime, PRACTICE_RIG, type Rig } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import type { Finder, Finding, SourceState } from './finding';

/** The state of each source: failed, opening, another one than chosen, or missing. */
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
        advice: source.problem.hint,
        about: role,
      });
    if (source.state === 'opening' && role !== 'screen')
      add({
        weight: 'warn',
        sentence: `Opening ${TRACK_NAMES[role].toLowerCase()} …`,
        advice: 'A source that opens late joins the take when it is ready.',
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
            sentence: 'No source is shared yet: choose one in the browser’s picker.',
            advice: 'Use the practice desk instead.',
            fix: practiceDesk,
            about: 'screen',
          }
        : { weight: 'stop', sentence: 'Opening the practice display …', about: 'screen' },
    );
  if (rig.picture.source.from === 'none' && !rig.voice && !rig.appSound)
    add({
      weight: 'stop',
      sentence: 'Neither picture nor sound is chosen: there is nothing to record.',
      advice: 'Use the practice desk.',
      fix: practiceDesk,
      about: 'screen',
    });
  return found;
};

const practiceDesk = (rig: Rig): Rig => withValue(rig, 'picture.source', PRACTICE_RIG.picture.source);

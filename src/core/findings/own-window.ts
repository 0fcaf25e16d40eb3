import { withValue } from '../rig/rig-values';
import type { Finder, Finding } from './finding';

/** A whole display is captured, and with it whatever stands on it: this page, and notifications. Or a tab of the studio itself. */
export const ownWindow: Finder = (rig, facts) => {
  const { source } = rig.picture;
  if (source.from === 'screen' && facts.sources.screen?.tellsPointer)
    return {
      id: 'own-window',
      weight: 'note',
      sentence: 'A tab of the studio is captured: its live picture will show itself repeatedly.',
      advice: 'Open another page of the studio in that tab, or share another tab.',
      about: 'screen',
    };
  if (source.from !== 'screen' || source.meant !== 'display') return null;
  // One window shares no sound.
  const meant = rig.appSound?.source.from === 'screen' ? 'tab' : 'window';
  const instead = meant === 'tab' ? 'a browser tab' : 'one window';
  const note = (sentence: string, advice: string): Finding => ({
    id: 'own-window',
    weight: 'note',
    sentence,
    advice: `Share ${instead} instead, or ${advice}`,
    fix: (old) => withValue(old, 'picture.source', { from: 'screen', meant }),
    about: 'screen',
  });
  return [
    note(
      'A whole display is captured: this page is recorded while it is visible there.',
      'put the studio on another display.',
    ),
    note('Notifications that pop up will be recorded.', 'silence them in the system’s settings.'),
  ];
};

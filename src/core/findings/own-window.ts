import { withValue } from '../rig-choices';
import type { Finder, Finding } from './finding';

/** A whole display is captured, and with it whatever stands on it: this page, and notifications. */
export const ownWindow: Finder = (rig) => {
  const { source } = rig.picture;
  if (source.from !== 'screen' || source.meant !== 'display') return null;
  // One window shares no sound.
  const meant = rig.appSound?.source.from === 'screen' ? 'tab' : 'window';
  const instead = meant === 'tab' ? 'a browser tab' : 'one window';
  const note = (sentence: string, fix: string): Finding => ({
    id: 'own-window',
    weight: 'note',
    sentence,
    fix: `Share ${instead} instead, or ${fix}`,
    mend: (old) => withValue(old, 'picture.source', { from: 'screen', meant }),
    about: 'screen',
  });
  return [
    note(
      'A whole display is captured: while this page stands on it, it is in the picture too.',
      'put the studio on another display.',
    ),
    note('Notifications that pop up will be recorded.', 'silence them in the system’s settings.'),
  ];
};

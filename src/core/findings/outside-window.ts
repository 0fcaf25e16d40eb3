import { withValue } from '../rig-choices';
import type { Finder } from './finding';

/** What a program opens outside its window is not in a picture of the window alone. */
export const outsideWindow: Finder = ({ picture: { source } }, { outside }) => {
  if (source.from === 'screen' && source.meant === 'window')
    return {
      id: 'outside-window',
      weight: 'note',
      sentence: 'One window is captured: menus, dialogs and lists that open outside it are missing.',
      fix: 'Share the display and keep a region of it.',
      mend: (rig) => withValue(rig, 'picture.source', { from: 'screen', meant: 'display' }),
      about: 'screen',
    };
  if (source.from !== 'practice' || !outside || outside.of !== source.id) return null;
  const { names, instead } = outside;
  return {
    id: 'outside-window',
    weight: 'note',
    sentence: `Outside what is captured, and so missing: ${names.join(', ')}.`,
    fix: 'Keep the region of the display where the window stands.',
    mend: (rig) =>
      withValue(
        withValue(rig, 'picture.source', { from: 'practice', id: instead.display }),
        'picture.aim',
        instead.region,
      ),
    about: 'screen',
  };
};

import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** What a program opens outside its window is not in a picture of the window alone. */
export const outsideWindow: Finder = ({ picture: { source } }, { outside }) => {
  if (source.from === 'screen' && source.meant === 'window')
    return {
      id: 'outside-window',
      weight: 'note',
      sentence: 'Menus, dialogs and lists that open outside the window will be missing.',
      advice: 'Share the display and record a region of it.',
      fix: (rig) => withValue(rig, 'picture.source', { from: 'screen', meant: 'display' }),
      about: 'screen',
    };
  if (source.from !== 'practice' || !outside || outside.of !== source.id) return null;
  const { names, instead } = outside;
  return {
    id: 'outside-window',
    weight: 'note',
    sentence: `Outside the capture, and therefore missing: ${names.join(', ')}.`,
    advice: 'Record the region of the display around the window.',
    fix: (rig) =>
      withValue(
        withValue(rig, 'picture.source', { from: 'practice', id: instead.display }),
        'picture.aim',
        instead.region,
      ),
    about: 'screen',
  };
};

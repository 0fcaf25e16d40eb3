import { fitted, oneToOneBox } from '../fit';
import { withValue } from '../rig-values';
import { sizeText } from '../sizes';
import { type Finder, sourceSize } from './finding';

/** Scaling takes more from small text than any bitrate gives back. */
export const softened: Finder = ({ picture }, facts) => {
  const source = sourceSize(facts);
  if (!source || !picture.box) return null;
  const { scale, crop } = fitted(picture, source);
  if (scale >= 1 || picture.fit === 'stretch') return null;
  const box = oneToOneBox(picture, source);
  return {
    id: 'softened',
    weight: 'warn',
    sentence: `Text will look softer: the picture is scaled to ${Math.round(scale * 100)} %.`,
    advice: `Record one to one, ${sizeText(box ?? crop)}.`,
    fix: (rig) => withValue(rig, 'picture.box', box),
    about: 'screen',
  };
};

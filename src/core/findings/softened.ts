import { sizeText } from '../base/sizes';
import { fitted, oneToOneBox } from '../layout/fit';
import { withValue } from '../rig/rig-values';
import { type Finder, sourceSize } from './finding';

/** A display of 1080 lines, parcels of both kinds at their usual CRF (docs/figures.md, `compact`). */
const MEASURED = 'Measured at 67 %: clarity 0.92 instead of 0.998, and a file only 13–22 % smaller.';

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
    sentence: `Text will look softer: the picture is scaled to ${Math.round(scale * 100)} %. ${MEASURED}`,
    advice: `Record one to one, ${sizeText(box ?? crop)}.`,
    fix: (rig) => withValue(rig, 'picture.box', box),
    about: 'screen',
  };
};

import { sizeText } from '../base/sizes';
import { fitted } from '../layout/fit';
import { withValue } from '../rig/rig-values';
import { type Finder, sourceSize } from './finding';

/** So much difference between the two directions is seen. */
const SEEN = 0.01;

/** A shape that is pulled into another one. */
export const stretched: Finder = ({ picture }, facts) => {
  const source = sourceSize(facts);
  if (!source || !picture.box || picture.fit !== 'stretch') return null;
  const { crop, size } = fitted(picture, source);
  const ratio = size.width / crop.width / (size.height / crop.height);
  if (Math.abs(ratio - 1) < SEEN) return null;
  return {
    id: 'stretched',
    weight: 'warn',
    sentence: `The picture is stretched from ${sizeText(crop)} to ${sizeText(size)}: everything is ${Math.round(Math.abs(ratio - 1) * 100)} % ${ratio > 1 ? 'wider' : 'narrower'}.`,
    advice: 'Use letterbox.',
    fix: (rig) => withValue(rig, 'picture.fit', 'letterbox'),
    about: 'screen',
  };
};

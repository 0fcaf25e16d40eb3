import { sizeText } from '../base/sizes';
import { fitted, oneToOneBox } from '../layout/fit';
import { withValue } from '../rig/rig-values';
import { type Finder, sourceSize } from './finding';

/** One cannot capture more pixels than there are. */
export const upscaling: Finder = ({ picture }, facts) => {
  const source = sourceSize(facts);
  const { box } = picture;
  if (!box || !source) return null;
  const { crop: got, scale } = fitted(picture, source);
  if (picture.fit === 'stretch' && (box.width > got.width || box.height > got.height))
    return {
      id: 'upscaling',
      weight: 'warn',
      sentence: `The picture is upscaled from ${sizeText(got)} to ${sizeText(box)}. It gains no detail.`,
      advice: `Record one to one, ${sizeText(got)}.`,
      fix: (rig) => withValue(rig, 'picture.box', oneToOneBox(picture, source)),
      about: 'screen',
    };
  if (scale < 1 || box.width <= got.width || box.height <= got.height) return null;
  return {
    id: 'upscaling',
    weight: 'warn',
    sentence: `${sizeText(box)} is larger than the source: the picture is recorded at ${sizeText(got)}, without upscaling.`,
    advice: `Record one to one, ${sizeText(got)}.`,
    fix: (rig) => withValue(rig, 'picture.box', oneToOneBox(picture, source)),
    about: 'screen',
  };
};

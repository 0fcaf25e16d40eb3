import { fitted } from '../fit';
import { withValue } from '../rig-choices';
import { sizeText } from '../sizes';
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
      sentence: `Enlarged on purpose: ${sizeText(got)} become ${sizeText(box)}. It gains no detail.`,
      fix: `Record it one to one, ${sizeText(got)}.`,
      mend: (rig) => withValue(rig, 'picture.box', null),
      about: 'screen',
    };
  if (scale < 1 || box.width <= got.width || box.height <= got.height) return null;
  return {
    id: 'upscaling',
    weight: 'warn',
    sentence: `${sizeText(box)} is more than there is: what is kept has ${sizeText(got)}, and nothing is enlarged.`,
    fix: `Record it one to one, ${sizeText(got)}.`,
    mend: (rig) => withValue(rig, 'picture.box', null),
    about: 'screen',
  };
};

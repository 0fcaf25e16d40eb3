import { withValue } from '../rig-choices';
import { fitWithin, sizeText } from '../sizes';
import { type Finder, sourceSize } from './finding';

/** Scaling takes more from small letters than any bitrate gives back. */
export const softened: Finder = ({ picture: { box } }, facts) => {
  const source = sourceSize(facts);
  if (!source || !box) return null;
  const { scale } = fitWithin(source, box);
  if (scale === 1) return null;
  return {
    id: 'softened',
    weight: 'warn',
    sentence: `Small letters will be softer: the picture is scaled to ${Math.round(scale * 100)} %.`,
    fix: `Record it one to one, ${sizeText(source)}.`,
    mend: (rig) => withValue(rig, 'picture.box', null),
    about: 'screen',
  };
};

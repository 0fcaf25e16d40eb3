import { sizeText } from '../base/sizes';
import { fitted } from '../layout/fit';
import { withValue } from '../rig/rig-values';
import { type Finder, sourceSize } from './finding';

/** A region that was drawn on another source, or has odd sides: what is recorded is the nearest that fits. */
export const regionMoved: Finder = ({ picture }, facts) => {
  const source = sourceSize(facts);
  const { aim } = picture;
  if (!source || aim === 'whole') return null;
  const { crop } = fitted(picture, source);
  if (aim.x === crop.x && aim.y === crop.y && aim.width === crop.width && aim.height === crop.height)
    return null;
  const beyond = aim.x + aim.width > source.width || aim.y + aim.height > source.height;
  return {
    id: 'region-moved',
    weight: 'warn',
    sentence: beyond
      ? `The region extends beyond the source (${sizeText(source)}): ${sizeText(crop)} at ${crop.x}, ${crop.y} is recorded.`
      : `Position and size of a region must be even: ${sizeText(crop)} at ${crop.x}, ${crop.y} is recorded.`,
    advice: 'Use the region that is recorded.',
    fix: (rig) => withValue(rig, 'picture.aim', crop),
    about: 'screen',
  };
};

import { evenDown, sizeText } from '../base/sizes';
import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** A box with odd sides cannot be filled: 4:2:0 shares one colour sample between two by two pixels. */
export const oddSize: Finder = ({ picture: { box } }) => {
  if (!box || (box.width % 2 === 0 && box.height % 2 === 0)) return null;
  const even = { width: evenDown(box.width), height: evenDown(box.height) };
  return {
    id: 'odd-size',
    weight: 'warn',
    sentence: `The picture cannot be ${sizeText(box)}: width and height must be even.`,
    advice: `Use ${sizeText(even)}.`,
    fix: (rig) => withValue(rig, 'picture.box', even),
    about: 'screen',
  };
};

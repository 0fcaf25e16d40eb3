import { withValue } from '../rig-choices';
import { evenDown, sizeText } from '../sizes';
import { type Finder, sourceSize } from './finding';

/** One cannot capture more pixels than there are. */
export const upscaling: Finder = ({ picture: { box } }, facts) => {
  const source = sourceSize(facts);
  if (!box || !source || box.width <= source.width || box.height <= source.height) return null;
  const got = { width: evenDown(source.width), height: evenDown(source.height) };
  return {
    id: 'upscaling',
    weight: 'warn',
    sentence: `${sizeText(box)} is more than there is: what is captured has ${sizeText(source)}, and nothing is enlarged.`,
    fix: `Record it one to one, ${sizeText(got)}.`,
    mend: (rig) => withValue(rig, 'picture.box', null),
    about: 'screen',
  };
};

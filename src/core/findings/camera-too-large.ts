import { sizeText } from '../base/sizes';
import { fitted } from '../layout/fit';
import { withValue } from '../rig/rig-values';
import { type Finder, sourceSize } from './finding';

const SMALL = { width: 640, height: 360 };

/** The camera needs no more pixels than it is shown with; enlarging it in a cut is what they would be for. */
export const cameraTooLarge: Finder = (rig, facts) => {
  const source = sourceSize(facts);
  if (!rig.camera || !source || rig.camera.size.width <= SMALL.width) return null;
  const shown = Math.round(fitted(rig.picture, source).size.width * rig.camera.place.width);
  if (rig.camera.size.width < shown * 2) return null;
  return {
    id: 'camera-too-large',
    weight: 'note',
    sentence: `The camera is recorded at ${sizeText(rig.camera.size)} and shown ${shown} px wide: more is useful only where a cut enlarges it.`,
    advice: `Record the camera at ${sizeText(SMALL)}.`,
    fix: (old) => withValue(old, 'camera.size', SMALL),
    about: 'camera',
  };
};

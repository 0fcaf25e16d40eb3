import { fitted } from '../fit';
import { arrivalVerdict, arrivingPx, VIEWERS } from '../letters';
import { withValue } from '../rig-choices';
import { type Finder, sourceSize } from './finding';

/** Letters that cannot be read where the lesson is watched. */
export const lettersTooSmall: Finder = (rig, facts) => {
  const source = sourceSize(facts);
  const viewer = VIEWERS.find(({ id }) => id === rig.picture.viewer);
  if (!source || !viewer || facts.letterPx === null) return null;
  const px = arrivingPx(facts.letterPx, fitted(rig.picture, source).size, viewer);
  const verdict = arrivalVerdict(px);
  if (verdict === 'good') return null;
  return {
    id: 'letters-too-small',
    weight: verdict === 'unreadable' ? 'warn' : 'note',
    sentence: `Letters arrive ${px.toFixed(1)} pixels tall in ${viewer.name.toLowerCase()}: ${verdict === 'unreadable' ? 'nobody can read them' : 'they are hard to read'}.`,
    fix:
      viewer.id === 'full'
        ? 'Make the window smaller, or its letters larger.'
        : 'Say that it is watched full screen.',
    mend: viewer.id === 'full' ? undefined : (old) => withValue(old, 'picture.viewer', 'full'),
    about: 'screen',
  };
};

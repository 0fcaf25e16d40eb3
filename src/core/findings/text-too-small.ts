import { arrivalVerdict, arrivingPx, VIEWERS } from '../image/text-height';
import { fitted } from '../layout/fit';
import { withValue } from '../rig/rig-values';
import { type Finder, sourceSize } from './finding';

/** Text that is too small at the viewing size. */
export const textTooSmall: Finder = (rig, facts) => {
  const source = sourceSize(facts);
  const viewer = VIEWERS.find(({ id }) => id === rig.picture.viewer);
  if (!source || !viewer || facts.textPx === null) return null;
  const px = arrivingPx(facts.textPx, fitted(rig.picture, source).size, viewer);
  const verdict = arrivalVerdict(px);
  if (verdict === 'good') return null;
  return {
    id: 'text-too-small',
    weight: verdict === 'unreadable' ? 'warn' : 'note',
    sentence: `Text will be ${px.toFixed(1)} px tall in ${viewer.name.toLowerCase()}: ${verdict === 'unreadable' ? 'too small to read' : 'hard to read'}.`,
    advice:
      viewer.id === 'full'
        ? 'Make the window smaller, or its text larger.'
        : 'Set the viewing size to full screen.',
    fix: viewer.id === 'full' ? undefined : (old) => withValue(old, 'picture.viewer', 'full'),
    about: 'screen',
  };
};

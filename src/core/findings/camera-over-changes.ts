import type { Size } from '../base/sizes';
import { type Activity, shareUnder } from '../layout/activity';
import { fitted } from '../layout/fit';
import { placeCamera } from '../layout/layout';
import type { CameraPlace, Rig } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import { type Finder, sourceSize } from './finding';

/** A camera may lie over so much of what changes; more is where the lesson happens. */
const MOST = 0.15;
/** So many looks, one a second, before anything is said. */
const LEAST_LOOKS = 8;
const CORNERS = ['top-left', 'top-right', 'bottom-left', 'bottom-right'] as const;

/** A camera that lies where the picture changes hides what is being shown. */
export const cameraOverChanges: Finder = (rig, facts) => {
  const source = sourceSize(facts);
  const { activity } = facts;
  if (!rig.camera || !source || !activity || activity.looks < LEAST_LOOKS) return null;
  const { place } = rig.camera;
  const under = (at: CameraPlace) => underCamera(rig, source, activity, at);
  const now = under(place);
  if (now < MOST) return null;
  const [quietest] = CORNERS.map((corner) => {
    const to = { ...place, corner, free: null };
    return { to, share: under(to) };
  }).sort((a, b) => a.share - b.share);
  const better = quietest && quietest.share < MOST && quietest.share < now / 2 ? quietest.to : null;
  return {
    id: 'camera-over-changes',
    weight: 'warn',
    sentence: `The camera covers ${Math.round(now * 100)} % of the recent activity on the screen.`,
    advice: better
      ? `Move the camera to the ${better.corner.replace('-', ' ')}.`
      : 'Make the camera smaller, or hide it in this step.',
    fix: better ? (old) => withValue(old, 'camera.place', better) : undefined,
    about: 'camera',
  };
};

function underCamera(rig: Rig, source: Size, activity: Activity, place: CameraPlace): number {
  const fit = fitted(rig.picture, source);
  const { at } = placeCamera(fit.size, rig.camera?.size ?? { width: 640, height: 360 }, place);
  return shareUnder(activity, source, fit, at);
}

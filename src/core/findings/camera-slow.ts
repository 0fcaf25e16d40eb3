import { withValue } from '../rig-choices';
import type { Finder } from './finding';

/** Under this lips look out of step with what is heard. */
export const LEAST_CAMERA_FPS = 24;

/** The camera really gives fewer pictures than speech needs. */
export const cameraSlow: Finder = (rig, { sources: { camera } }) => {
  const measured = camera?.measuredFps;
  if (!rig.camera || !measured || measured.fps >= LEAST_CAMERA_FPS) return null;
  if (measured.asked.height !== rig.camera.size.height) return null;
  const smaller = rig.camera.size.height > 360;
  return {
    id: 'camera-slow',
    weight: 'warn',
    sentence: `The camera gives ${measured.fps.toFixed(0)} pictures a second: under ${LEAST_CAMERA_FPS} lips look out of step.`,
    fix: smaller ? 'Take it at 640 × 360.' : 'Light the room, or record without the camera.',
    mend: (old) =>
      smaller && old.camera
        ? withValue(old, 'camera.size', { width: 640, height: 360 })
        : withValue(old, 'camera', null),
    about: 'camera',
  };
};

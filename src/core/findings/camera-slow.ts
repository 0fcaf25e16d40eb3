import { withValue } from '../rig/rig-values';
import type { Finder } from './finding';

/** Below this frame rate lips look out of sync. */
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
    sentence: `The camera delivers ${measured.fps.toFixed(0)} fps: below ${LEAST_CAMERA_FPS} fps, lips look out of sync.`,
    advice: smaller ? 'Record the camera at 640 × 360.' : 'Add light, or record without the camera.',
    fix: (old) =>
      smaller && old.camera
        ? withValue(old, 'camera.size', { width: 640, height: 360 })
        : withValue(old, 'camera', null),
    about: 'camera',
  };
};

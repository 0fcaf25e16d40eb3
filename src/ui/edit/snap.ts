/** So near, in pixels of the screen, a dragged handle jumps to a place that means something. */
export const SNAP_PX = 7;

/**
 * A place of the video, or the nearest of those that it should jump to.
 * @param points joints, marks and the playhead
 * @param withinUs farther than this nothing jumps
 */
export const snapped = (us: number, points: readonly number[], withinUs: number): number =>
  points.reduce(
    (best, point) =>
      Math.abs(point - us) <= withinUs && (best === us || Math.abs(point - us) < Math.abs(best - us))
        ? point
        : best,
    us,
  );

/** So near, in pixels of the screen, a dragged handle jumps to a place that means something. */
export const SNAP_PX = 7;

/**
 * A place of the video, or the nearest of those that it should jump to.
 * @param points joints, marks and the playhead
 * @param withinUs farther than this nothing jumps
 */
export function snapped(us: number, points: readonly number[], withinUs: number): number {
  let best: number | null = null;
  for (const point of points) {
    const off = Math.abs(point - us);
    if (off <= withinUs && (best === null || off < Math.abs(best - us))) best = point;
  }
  return best ?? us;
}

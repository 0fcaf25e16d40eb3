import type { Rect, Size } from '@/core/base/sizes';
import { follow, type Region, regionWithin } from '@/core/image/region';
import { fitted } from '@/core/layout/fit';
import type { VideoSettings } from '../messages';

/** A region that moves with the pointer. */
export type Following = {
  /** What of the source is in the picture now; undefined where nothing is followed. */
  readonly kept: (source: Size | null, nowUs: number) => Rect | undefined;
  /** Where the region is; null before it has followed anything. */
  readonly region: () => Region | null;
};

/** A machine that stood still for longer does not let the region leap. */
const LONGEST_STEP_S = 0.5;

/**
 * @param pointer where the pointer is in the source; null where nobody knows
 * @param onRegion called whenever the region has moved
 */
export function openFollowing(
  settings: VideoSettings,
  pointer: () => { x: number; y: number } | null,
  onRegion: (region: Region) => void,
): Following {
  let place: Rect | null = null;
  let region: Region | null = null;
  let lastUs = 0;
  return {
    kept: (source, nowUs) => {
      const { aim, follow: how } = settings;
      const to = how && aim !== 'whole' && source ? pointer() : null;
      if (!how || aim === 'whole' || !source || !to) return undefined;
      // It begins where the pointer is.
      const { width, height } = aim;
      place ??= regionWithin({ x: to.x - width / 2, y: to.y - height / 2, width, height }, source);
      place = follow(place, to, source, how, Math.min(LONGEST_STEP_S, (nowUs - lastUs) / 1e6));
      lastUs = nowUs;
      const next = regionWithin(place, source);
      if (next.x !== region?.x || next.y !== region.y) onRegion(next);
      region = next;
      return fitted({ ...settings, aim: next }, source).crop;
    },
    region: () => region,
  };
}

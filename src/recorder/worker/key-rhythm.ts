import { frameTimeUs } from '@/core/base/rational';
import type { VideoSettings } from '../messages';

/** Says which pictures are keyframes: by time to the nearest picture, by number exactly, and the first one of each segment. */
export type KeyRhythm = {
  /** Whether the next picture is one; call it once for each. @param segment that it goes to */
  readonly isDue: (tUs: number, segment: object) => boolean;
};

export function openKeyRhythm({
  keyframeEvery: { unit, value },
  frameRate,
}: Pick<VideoSettings, 'keyframeEvery' | 'frameRate'>): KeyRhythm {
  let last: { segment: object; tUs: number; since: number } | null = null;
  const isDue = (tUs: number, segment: object) => {
    if (last?.segment !== segment) return true;
    if (unit === 'frames') return last.since >= value;
    return tUs - last.tUs >= value * 1e6 - frameTimeUs(1, frameRate) / 2;
  };
  return {
    isDue: (tUs, segment) => {
      const due = isDue(tUs, segment);
      last = due || !last ? { segment, tUs, since: 1 } : { ...last, since: last.since + 1 };
      return due;
    },
  };
}

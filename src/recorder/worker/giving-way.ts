import { type Detail, isBehind, lessDetail } from '@/core/recording/less-detail';
import type { FrameCounts } from '@/core/recording/pacing';

/** Dropped frames are counted over this long before quality is lowered. */
const JUDGED_US = 2_000_000;

/**
 * Watches whether the encoder is too slow.
 * @returns what to call with each picture; it returns what detail to go on with, or null to leave it
 */
export function openGivingWay(nowUs: () => number) {
  let looked: { atUs: number; counts: FrameCounts } | null = null;
  return (counts: FrameCounts, detail: Detail): Detail | null => {
    const atUs = nowUs();
    if (looked && atUs - looked.atUs < JUDGED_US) return null;
    const before = looked?.counts;
    looked = { atUs, counts };
    if (!before || !isBehind(counts.arrived - before.arrived, counts.dropped - before.dropped)) return null;
    return lessDetail(detail);
  };
}

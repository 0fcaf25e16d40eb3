import type { Rig } from '@/core/rig/rig';
import type { Arrangement } from '@/practice/desk/arrangement';
import { isView, pointerShift } from '@/practice/desk/views';
import { deskEvents, shifted } from '@/practice/script';
import { pageNowUs, type Recorder } from './engine';

/** Tells a take what the script's hand did on the practice desk since the last time. */
export type DeskHand = () => void;

/**
 * Follows the hand of the practice desk's script for one take.
 * @param cueUs when the script began
 * @returns null where its pointer is not seen in what is captured
 */
export function openDeskHand(
  recorder: Recorder,
  source: Rig['picture']['source'],
  arrangement: Arrangement,
  cueUs: number,
): DeskHand | null {
  if (source.from !== 'practice' || !isView(source.id)) return null;
  const shift = pointerShift(source.id, arrangement);
  if (!shift) return null;
  // Keys and clicks go to the program that the script works in.
  const worked = source.id === 'desk' || source.id === 'window-register';
  recorder.pointerScript(cueUs, shift);
  let toldMs = 0;
  return () => {
    const untilMs = (pageNowUs() - cueUs) / 1000;
    for (const { kind, data, atMs } of deskEvents(toldMs, untilMs)) {
      if (kind !== 'pointer' && !worked) continue;
      const placed =
        typeof data.x === 'number' && typeof data.y === 'number'
          ? shifted({ ...data, x: data.x, y: data.y }, shift)
          : data;
      recorder.event(kind, placed, cueUs + atMs * 1000);
    }
    toldMs = untilMs;
  };
}

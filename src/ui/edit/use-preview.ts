import { type RefObject, useEffect, useRef } from 'react';
import { type Cut, cutLengthUs } from '@/core/cut/cut';
import type { Player } from '@/player/player';

/** Played before and after the joint. */
const AROUND_US = 1_500_000;

/**
 * Plays a joint as it would become, and goes back to the cut as it is.
 * @param shown the cut that the player has
 * @returns plays another cut around a place of it
 */
export function usePreview(
  player: Player | null,
  cut: Cut,
  shown: RefObject<Cut>,
): (tried: Cut, aboutUs: number) => void {
  const ending = useRef<(() => void) | null>(null);
  const latest = useRef(cut);
  latest.current = cut;
  useEffect(() => () => ending.current?.(), []);
  return (tried, aboutUs) => {
    ending.current?.();
    if (!player) return;
    const untilUs = Math.min(cutLengthUs(tried), aboutUs + AROUND_US);
    player.setCut(tried, Math.max(0, aboutUs - AROUND_US));
    void player.play();
    const unsubscribe = player.store.subscribe(({ positionUs, playing }, before) => {
      // Over, or ended by somebody.
      if (positionUs >= untilUs || (before.playing && !playing)) ending.current?.();
    });
    ending.current = () => {
      ending.current = null;
      unsubscribe();
      player.pause();
      // An edit that was made meanwhile is shown already.
      if (shown.current === latest.current)
        player.setCut(latest.current, Math.min(aboutUs, cutLengthUs(latest.current)));
    };
  };
}

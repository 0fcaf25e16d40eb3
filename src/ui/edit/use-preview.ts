import { type RefObject, useEffect, useRef } from 'react';
import { type Cut, cutLengthUs } from '@/core/cut/cut';
import type { Player } from '@/player/player';

/** Played before and after the joint. */
const AROUND_US = 1_500_000;

/**
 * Plays a joint as it would become, and goes back to the cut as it is.
 * @param shown the cut that the player has
 * @returns plays another cut around a place of it; with `loops` again and again, until somebody stops it
 */
export function usePreview(
  player: Player | null,
  cut: Cut,
  shown: RefObject<Cut>,
): (tried: Cut, aboutUs: number, loops?: boolean) => void {
  const ending = useRef<(() => void) | null>(null);
  const latest = useRef(cut);
  latest.current = cut;
  useEffect(() => () => ending.current?.(), []);
  return (tried, aboutUs, loops = false) => {
    ending.current?.();
    if (!player) return;
    const untilUs = Math.min(cutLengthUs(tried), aboutUs + AROUND_US);
    const fromUs = Math.max(0, aboutUs - AROUND_US);
    player.setCut(tried, fromUs);
    void player.play();
    const unsubscribe = player.store.subscribe(({ positionUs, playing }, before) => {
      const isOver = positionUs >= untilUs;
      if (loops && isOver) {
        player.seek(fromUs);
        // At the very end of the video the player has stopped.
        if (!playing) void player.play();
      }
      // Over, or ended by somebody.
      else if (isOver || (before.playing && !playing)) ending.current?.();
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

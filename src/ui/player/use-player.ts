'use client';

import { type RefObject, useEffect, useState, useSyncExternalStore } from 'react';
import type { Cut } from '@/core/cut/cut';
import type { PlayerTake } from '@/player/messages';
import { NOT_LOADED, openPlayer, type Player, type PlayerState } from '@/player/player';

const nothing = () => () => undefined;

/**
 * A player on a canvas of its own inside `holder`, as large as that is.
 * @param takes only the first ones are opened: when finishing has made the one file of all tracks, nobody who is watching
 *   is thrown back to the start
 */
export function usePlayer(
  holder: RefObject<HTMLDivElement | null>,
  takes: PlayerTake[],
  cut: Cut,
): { player: Player | null; state: PlayerState } {
  const [player, setPlayer] = useState<Player | null>(null);
  const [opened] = useState({ takes, cut });
  const state = useSyncExternalStore(
    player?.subscribe ?? nothing,
    () => player?.state() ?? NOT_LOADED,
    () => NOT_LOADED,
  );
  useEffect(() => {
    const frame = holder.current;
    if (!frame) return;
    // Each player gets a canvas of its own: one that was handed to a worker never comes back.
    const canvas = document.createElement('canvas');
    frame.replaceChildren(canvas);
    const now = openPlayer(canvas, opened.takes, opened.cut);
    const fit = () => {
      const scale = Math.min(2, window.devicePixelRatio || 1);
      now.resize(Math.round(frame.clientWidth * scale), Math.round(frame.clientHeight * scale));
    };
    const sizes = new ResizeObserver(fit);
    sizes.observe(frame);
    setPlayer(now);
    return () => {
      sizes.disconnect();
      now.close();
      setPlayer(null);
    };
  }, [holder, opened]);
  return { player, state };
}

'use client';

import { type RefObject, useEffect, useState, useSyncExternalStore } from 'react';
import type { Cut } from '@/core/cut/cut';
import type { PlayerTake } from '@/player/messages';
import { NOT_LOADED, openPlayer, type Player, type PlayerState } from '@/player/player';

const nothing = () => () => undefined;
const JUMP_US = 5_000_000;

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

/** Space, arrows, J K L, Home and End, wherever on the page nothing else wants them. */
export function usePlayerKeys(player: Player | null): void {
  useEffect(() => {
    if (!player) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isForOthers(event)) return;
      const { positionUs, durationUs, playing } = player.state();
      const to = (us: number) => player.seek(Math.max(0, Math.min(durationUs, us)));
      if (event.key === ' ' || event.key === 'k') playing ? player.pause() : void player.play();
      else if (event.key === 'ArrowRight') player.step(1);
      else if (event.key === 'ArrowLeft') player.step(-1);
      else if (event.key === 'l') to(positionUs + JUMP_US);
      else if (event.key === 'j') to(positionUs - JUMP_US);
      else if (event.key === 'Home') to(0);
      else if (event.key === 'End') to(durationUs);
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [player]);
}

/** Whether a key belongs to what has the focus: text fields, the space bar on buttons, arrows among choices. */
function isForOthers(event: KeyboardEvent): boolean {
  const target = event.target as Element;
  const among = event.key === ' ' || event.key.startsWith('Arrow');
  return (
    isTyping(event) ||
    (event.key === ' ' && target.closest('button') !== null) ||
    (among && target.closest('input') !== null)
  );
}

/** Whether somebody writes: then text, and undoing them, are the text field's. */
export const isTyping = (event: KeyboardEvent): boolean =>
  (event.target as Element).closest(
    'textarea, input:not([type="radio"], [type="checkbox"]), [role="combobox"]',
  ) !== null;

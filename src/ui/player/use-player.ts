'use client';

import { type RefObject, useEffect, useState, useSyncExternalStore } from 'react';
import type { Cut } from '@/core/cut/cut';
import { shuttled } from '@/core/shuttle';
import type { PlayerTake } from '@/player/messages';
import { NOT_LOADED, openPlayer, type Player, type PlayerState } from '@/player/player';

const nothing = () => () => undefined;
const JUMP_US = 5_000_000;
const SHUTTLE_MS = 100;

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
    let speed = 0;
    let silent: ReturnType<typeof setInterval> | undefined;
    const to = (us: number) => player.seek(Math.max(0, Math.min(player.state().durationUs, us)));
    const shuttle = (next: number) => {
      clearInterval(silent);
      speed = next;
      if (next === 1) return void player.play();
      player.pause();
      // Sound is heard at its own speed alone: faster and backwards, the picture goes from place to place.
      if (next !== 0)
        silent = setInterval(() => {
          const { positionUs, durationUs } = player.state();
          if (next < 0 ? positionUs <= 0 : positionUs >= durationUs) shuttle(0);
          else to(positionUs + next * SHUTTLE_MS * 1000);
        }, SHUTTLE_MS);
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isForOthers(event)) return;
      const { positionUs, durationUs, playing } = player.state();
      // A button, or the end, may have changed it meanwhile.
      if (speed === 0 || speed === 1) speed = playing ? 1 : 0;
      const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
      const way = key === 'ArrowRight' ? 1 : key === 'ArrowLeft' ? -1 : null;
      if (key === 'j' || key === 'k' || key === 'l') shuttle(shuttled(speed, key));
      else if (key === ' ') shuttle(speed === 0 ? 1 : 0);
      else if (way !== null && event.shiftKey) to(positionUs + way * JUMP_US);
      else if (way !== null) {
        shuttle(0);
        player.step(way);
      } else if (key === 'Home') to(0);
      else if (key === 'End') to(durationUs);
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => {
      clearInterval(silent);
      window.removeEventListener('keydown', onKey);
    };
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

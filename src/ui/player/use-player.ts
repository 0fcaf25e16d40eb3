'use client';

import { type RefObject, useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import type { Cut } from '@/core/cut/cut';
import type { PlayerTake } from '@/player/messages';
import { NOT_LOADED, openPlayer, type Player, type PlayerState } from '@/player/player';

/** Before there is a player. */
const NO_PLAYER = createStore<PlayerState>(() => NOT_LOADED);

/**
 * A player on a canvas of its own inside `holder`, as large as that is.
 * @param takes opened once for each `files`: whoever is watching is not thrown back when finishing has made the one file of all tracks
 * @param files other ones are opened beside the player and take over at its position, playing if it plays
 */
export function usePlayer(
  holder: RefObject<HTMLDivElement | null>,
  takes: PlayerTake[],
  cut: Cut,
  files = '',
): Player | null {
  const [player, setPlayer] = useState<Player | null>(null);
  const live = useRef<Player | null>(null);
  const latest = useRef({ takes, cut });
  latest.current = { takes, cut };
  // biome-ignore lint/correctness/useExhaustiveDependencies: other files are another player
  useEffect(() => {
    const frame = holder.current;
    if (!frame) return;
    // Each player gets a canvas of its own: one that was handed to a worker never comes back.
    const canvas = document.createElement('canvas');
    const own = latest.current;
    const next = openPlayer(canvas, own.takes, own.cut);
    const sizes = new ResizeObserver(() => {
      const scale = Math.min(2, window.devicePixelRatio || 1);
      next.resize(Math.round(frame.clientWidth * scale), Math.round(frame.clientHeight * scale));
    });
    sizes.observe(frame);
    const show = () => {
      frame.replaceChildren(canvas);
      live.current = next;
      setPlayer(next);
    };
    const before = live.current;
    if (before)
      takeOver(before, next, () => {
        show();
        before.close();
      });
    else show();
    return () => {
      sizes.disconnect();
      if (live.current !== next) next.close();
    };
  }, [holder, files]);
  useEffect(
    () => () => {
      live.current?.close();
      live.current = null;
    },
    [],
  );
  return player;
}

/**
 * What a component shows of a player's state. It is drawn again only when that is another: the position is, with every picture.
 * @param of gives the same object for the same state
 */
export const usePlayed = <T>(player: Player | null, of: (state: PlayerState) => T): T =>
  useStore(player?.store ?? NO_PLAYER, of);

/** Brings a player to where another one is, and goes on from there. @param show called when its picture is there */
function takeOver(before: Player, next: Player, show: () => void): void {
  let sought = false;
  const unsubscribe = next.store.subscribe(() => {
    const { loaded, exact } = next.store.getState();
    if (!loaded) return;
    if (!sought) {
      sought = true;
      next.seek(before.store.getState().positionUs);
      return;
    }
    if (!exact) return;
    unsubscribe();
    const { playing, positionUs } = before.store.getState();
    show();
    // What passed while its picture was made.
    if (positionUs !== next.store.getState().positionUs) next.seek(positionUs);
    if (playing) requestAnimationFrame(() => void next.play());
  });
}

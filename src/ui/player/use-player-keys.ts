'use client';

import { useEffect, useRef } from 'react';
import { shuttled } from '@/core/views/shuttle';
import type { Player } from '@/player/player';
import { useAction } from '../keys/use-action';

const JUMP_US = 5_000_000;
const SHUTTLE_MS = 100;

/** Play, step, jump and shuttle by keys, wherever on the page nothing else wants them. */
export function usePlayerKeys(player: Player | null): void {
  const shuttler = useRef<Shuttler | null>(null);
  useEffect(() => {
    if (!player) return;
    const own = shuttlerOf(player);
    shuttler.current = own;
    return () => {
      own.end();
      shuttler.current = null;
    };
  }, [player]);
  const at = () => player?.store.getState().positionUs ?? 0;
  const to = (us: number) => player?.seek(Math.max(0, Math.min(player.store.getState().durationUs, us)));
  const step = (frames: number) => {
    shuttler.current?.go(0);
    player?.step(frames);
  };
  const held = { repeats: true };
  useAction('play.toggle', () => shuttler.current?.go(shuttler.current.speed() === 0 ? 1 : 0));
  useAction('play.back', () => shuttler.current?.press('j'));
  useAction('play.stop', () => shuttler.current?.press('k'));
  useAction('play.forward', () => shuttler.current?.press('l'));
  useAction('play.frame-back', () => step(-1), held);
  useAction('play.frame-on', () => step(1), held);
  useAction('play.ten-back', () => step(-10), held);
  useAction('play.ten-on', () => step(10), held);
  useAction('play.jump-back', () => to(at() - JUMP_US), held);
  useAction('play.jump-on', () => to(at() + JUMP_US), held);
  useAction('play.start', () => to(0));
  useAction('play.end', () => to(player?.store.getState().durationUs ?? 0));
}

type Shuttler = ReturnType<typeof shuttlerOf>;

/** Plays at a speed. Sound is heard at its own speed alone: faster and backwards, the picture goes from place to place. */
function shuttlerOf(player: Player) {
  let asked = 0;
  let silent: ReturnType<typeof setInterval> | undefined;
  const speed = () => {
    // A button, or the end, may have changed it meanwhile.
    if (asked === 0 || asked === 1) asked = player.store.getState().playing ? 1 : 0;
    return asked;
  };
  const go = (next: number) => {
    clearInterval(silent);
    asked = next;
    if (next === 1) return void player.play();
    player.pause();
    if (next !== 0)
      silent = setInterval(() => {
        const { positionUs, durationUs } = player.store.getState();
        const to = positionUs + next * SHUTTLE_MS * 1000;
        player.seek(Math.max(0, Math.min(durationUs, to)));
        if (to <= 0 || to >= durationUs) go(0);
      }, SHUTTLE_MS);
  };
  return {
    speed,
    go,
    press: (key: 'j' | 'k' | 'l') => go(shuttled(speed(), key)),
    end: () => clearInterval(silent),
  };
}

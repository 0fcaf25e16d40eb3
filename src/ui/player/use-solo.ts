import { useSyncExternalStore } from 'react';
import type { SoundName } from '@/player/messages';
import type { Player } from '@/player/player';

const nobody = () => () => undefined;

/** The one sound that a player lets be heard; null for all of them. */
export const useSolo = (player: Player | null): SoundName | null =>
  useSyncExternalStore(
    player?.store.subscribe ?? nobody,
    () => player?.store.getState().solo ?? null,
    () => null,
  );

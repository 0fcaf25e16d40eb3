import { useSyncExternalStore } from 'react';
import type { SoundKind } from '@/core/recording/take';
import type { Player } from '@/player/player';

const nobody = () => () => undefined;

/** The one sound that a player lets be heard; null for all of them. */
export const useSolo = (player: Player | null): SoundKind | null =>
  useSyncExternalStore(
    player?.store.subscribe ?? nobody,
    () => player?.store.getState().solo ?? null,
    () => null,
  );

'use client';

import { Button } from 'antd';
import type { Player, PlayerState } from '@/player/player';
import { Key } from '../keys/key';

/** Plays or pauses; not before something is loaded. */
export function PlayButton({ player, state }: { player: Player | null; state: PlayerState }) {
  return (
    <Button
      // Not solid: that is for the one thing that comes next.
      color="primary"
      variant="filled"
      disabled={!state.loaded}
      onClick={() => (state.playing ? player?.pause() : void player?.play())}
    >
      {state.playing ? 'Pause' : 'Play'} <Key of="play.toggle" />
    </Button>
  );
}

'use client';

import { Button } from 'antd';
import type { Player } from '@/player/player';
import { Key } from '../keys/key';
import { usePlayed } from './use-player';

/** Plays or pauses; not before something is loaded. */
export function PlayButton({ player }: { player: Player | null }) {
  const loaded = usePlayed(player, (state) => state.loaded);
  const playing = usePlayed(player, (state) => state.playing);
  return (
    <Button
      // Not solid: that is for the one thing that comes next.
      color="primary"
      variant="filled"
      disabled={!loaded}
      onClick={() => (playing ? player?.pause() : void player?.play())}
    >
      {playing ? 'Pause' : 'Play'} <Key of="play.toggle" />
    </Button>
  );
}

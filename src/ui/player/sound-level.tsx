'use client';

import { MutedOutlined, SoundOutlined } from '@ant-design/icons';
import { Button, Flex, Tooltip } from 'antd';
import { useEffect, useState } from 'react';
import type { Player } from '@/player/player';
import { Slider } from '../fields/slider';
import { Key } from '../keys/key';
import { useAction } from '../keys/use-action';

const KEPT = 'player-volume';

/** How loud this browser plays takes and cuts: kept for the next one. */
export function SoundLevel({ player }: { player: Player | null }) {
  const [volume, setVolume] = useState(1);
  const [muted, setMuted] = useState(false);
  useEffect(() => {
    const kept = Number(localStorage.getItem(KEPT) ?? 1);
    if (kept >= 0 && kept <= 1) setVolume(kept);
  }, []);
  useEffect(() => player?.setVolume(muted ? 0 : volume), [player, muted, volume]);
  const toggle = () => setMuted(!muted);
  useAction('play.mute', toggle);
  return (
    <Flex align="center" gap={4}>
      <Tooltip
        title={
          <>
            {muted ? 'Unmute' : 'Mute'} <Key of="play.mute" />
          </>
        }
      >
        <Button
          type="text"
          icon={muted ? <MutedOutlined /> : <SoundOutlined />}
          aria-label="Mute"
          aria-pressed={muted}
          onClick={toggle}
        />
      </Tooltip>
      <div style={{ width: 84 }}>
        <Slider
          name="Volume"
          min={0}
          max={1}
          step={0.05}
          value={volume}
          text={`${Math.round(volume * 100)} %`}
          colour="river"
          onChange={(next) => {
            setVolume(next);
            setMuted(false);
            localStorage.setItem(KEPT, String(next));
          }}
        />
      </div>
    </Flex>
  );
}

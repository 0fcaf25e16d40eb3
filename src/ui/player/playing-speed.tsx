'use client';

import { Select } from 'antd';
import { useEffect, useState } from 'react';
import type { Player } from '@/player/player';

const SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 2];

/** How fast takes and cuts are played here, with their pitch kept. It changes nothing of them. */
export function PlayingSpeed({ player }: { player: Player | null }) {
  const [speed, setSpeed] = useState(1);
  useEffect(() => void player?.setSpeed(speed), [player, speed]);
  return (
    <Select
      size="small"
      aria-label="Playback speed"
      value={speed}
      onChange={setSpeed}
      popupMatchSelectWidth={false}
      options={SPEEDS.map((value) => ({ value, label: `${value}×` }))}
    />
  );
}

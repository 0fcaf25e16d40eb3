import { NodeIndexOutlined, RetweetOutlined } from '@ant-design/icons';
import { Button } from 'antd';
import { memo } from 'react';
import { type Cut, placedPieces } from '@/core/cut/cut';
import type { Player } from '@/player/player';
import { useAction } from '../keys/use-action';

/** The joint of the video that is nearest to a place; null where it has none. */
export function nearestJoint(cut: Cut, us: number): number | null {
  const joints = placedPieces(cut)
    .slice(1)
    .map(({ startUs }) => startUs);
  return joints.length === 0
    ? null
    : joints.reduce((best, joint) => (Math.abs(joint - us) < Math.abs(best - us) ? joint : best));
}

/** Plays from a little before the nearest joint to a little after it, once or over and over, by button and by key. */
export const PlayJoint = memo(function PlayJoint({
  cut,
  player,
  onPlay,
}: {
  cut: Cut;
  player: Player | null;
  onPlay: (us: number, loops: boolean) => void;
}) {
  const play = (loops: boolean) => {
    const joint = nearestJoint(cut, player?.store.getState().positionUs ?? 0);
    if (joint !== null) onPlay(joint, loops);
  };
  useAction('edit.joint', () => play(false));
  useAction('edit.loop', () => play(true));
  return [
    { name: 'Preview the nearest joint', icon: <NodeIndexOutlined />, loops: false },
    { name: 'Loop the nearest joint', icon: <RetweetOutlined />, loops: true },
  ].map(({ name, icon, loops }) => (
    <Button
      key={name}
      type="text"
      size="small"
      icon={icon}
      aria-label={name}
      title={name}
      disabled={placedPieces(cut).length < 2}
      onClick={() => play(loops)}
    />
  ));
});

import { NodeIndexOutlined } from '@ant-design/icons';
import { Button } from 'antd';
import { type Cut, placedPieces } from '@/core/cut/cut';
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

/** Plays from a little before the nearest joint to a little after it, by button and by key. */
export function PlayJoint({
  cut,
  positionUs,
  onPlay,
}: {
  cut: Cut;
  positionUs: number;
  onPlay: (us: number) => void;
}) {
  const joint = nearestJoint(cut, positionUs);
  const play = () => joint !== null && onPlay(joint);
  useAction('edit.joint', play);
  return (
    <Button
      type="text"
      size="small"
      icon={<NodeIndexOutlined />}
      aria-label="Preview the nearest joint"
      title="Preview the nearest joint"
      disabled={joint === null}
      onClick={play}
    />
  );
}

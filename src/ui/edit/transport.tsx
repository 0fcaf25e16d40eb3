'use client';

import { Button } from 'antd';
import { memo, useMemo } from 'react';
import type { FrameRate } from '@/core/base/rational';
import { type Cut, placedSteps } from '@/core/cut/cut';
import { canSplit } from '@/core/cut/edits';
import type { ActionId } from '@/core/views/keys';
import type { Player } from '@/player/player';
import { Key } from '../keys/key';
import { PlaceField } from '../player/place-field';
import { PlayButton } from '../player/play-button';
import { usePlayed } from '../player/use-player';
import type { Range } from './range';
import type { CutKeeper } from './use-cut';
import type { Edits } from './use-edits';

/** Playing and editing, button by button, each with its key. */
export const Transport = memo(function Transport(props: {
  player: Player | null;
  lengthUs: number;
  rate: FrameRate;
  keeper: CutKeeper;
  edits: Edits;
  chosen: Range | null;
}) {
  const { player, keeper, edits, chosen } = props;
  return (
    <div className="row transport">
      <PlayButton player={player} />
      <Place {...{ player }} lengthUs={props.lengthUs} rate={props.rate} />
      <Act action="edit.in" label="Mark in" onClick={edits.markIn} />
      <Act action="edit.out" label="Mark out" onClick={edits.markOut} />
      <Act action="edit.remove" label="Delete" disabled={!chosen} onClick={edits.takeOut} />
      <Act action="edit.keep" label="Trim to selection" disabled={!chosen} onClick={edits.keepOnly} />
      <Split {...{ player }} cut={keeper.cut} onClick={edits.splitHere} />
      <span className="grow" />
      <Act action="edit.undo" label="Undo" disabled={!keeper.canUndo} onClick={keeper.undo} />
      <Act action="edit.redo" label="Redo" disabled={!keeper.canRedo} onClick={keeper.redo} />
    </div>
  );
});

/** Where the playhead is. */
function Place({ player, lengthUs, rate }: { player: Player | null; lengthUs: number; rate: FrameRate }) {
  const positionUs = usePlayed(player, (state) => Math.min(state.positionUs, lengthUs));
  return <PlaceField {...{ positionUs, rate }} durationUs={lengthUs} onSeek={(us) => player?.seek(us)} />;
}

/** At a border, and at both ends of the video, there is nothing to split. */
function Split({ player, cut, onClick }: { player: Player | null; cut: Cut; onClick: () => void }) {
  const placed = useMemo(() => placedSteps(cut), [cut]);
  const isInside = usePlayed(player, ({ positionUs }) => canSplit(placed, positionUs));
  return <Act action="edit.split" label="Split here" disabled={!isInside} onClick={onClick} />;
}

function Act(props: { action: ActionId; label: string; disabled?: boolean; onClick: () => void }) {
  return (
    <Button disabled={props.disabled} onClick={props.onClick}>
      {props.label} <Key of={props.action} />
    </Button>
  );
}

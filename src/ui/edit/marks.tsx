'use client';

import { Button } from 'antd';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import type { FrameRate } from '@/core/base/rational';
import type { Cut } from '@/core/cut/cut';
import { addMark, type MarkedTake, type PlacedMark } from '@/core/cut/marks';
import type { Player } from '@/player/player';
import { useAction } from '../keys/use-action';
import type { CutKeeper } from './use-cut';

const MarksDrawer = dynamic(() => import('./marks-drawer').then((m) => m.MarksDrawer), { ssr: false });

/** The marks that the video shows, to be found, named, moved and removed; and more of them, by button and by key. */
export function Marks({
  keeper,
  takes,
  marks,
  rate,
  player,
}: {
  keeper: CutKeeper;
  takes: readonly MarkedTake[];
  marks: readonly PlacedMark[];
  rate: FrameRate;
  player: Player | null;
}) {
  const [open, setOpen] = useState(false);
  const placeUs = () => player?.store.getState().positionUs ?? 0;
  const add = () => keeper.change(addMark(keeper.cut, takes, placeUs()));
  useAction('edit.mark', add);
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        Marks{marks.length > 0 && <span className="fig">{marks.length}</span>}
      </Button>
      {open && (
        <MarksDrawer
          {...{ marks, rate }}
          onAdd={add}
          onShow={({ us }) => player?.seek(us)}
          onChange={(make: (cut: Cut) => Cut, how) => keeper.change(make(keeper.cut), how)}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

'use client';

import { Button } from 'antd';
import dynamic from 'next/dynamic';
import { type RefObject, useDeferredValue, useMemo, useState } from 'react';
import type { FrameRate } from '@/core/base/rational';
import type { Cut } from '@/core/cut/cut';
import { accept, type HeardTake, proposals, type Tightening, USUAL_TIGHTENING } from '@/core/cut/proposals';
import type { Player } from '@/player/player';
import { ACTIONS, type Action, actionCounts, actionOf } from './proposal-actions';
import type { Edits } from './use-edits';
import { usePreview } from './use-preview';

const ProposalsDrawer = dynamic(() => import('./proposals-drawer').then((m) => m.ProposalsDrawer), {
  ssr: false,
});

type Props = {
  cut: Cut;
  heard: readonly HeardTake[];
  rate: FrameRate;
  edits: Edits;
  player: Player | null;
  shown: RefObject<Cut>;
};

/** What could be left out of the video, played faster or zoomed to, to accept one by one or all at once. */
export function Proposals({ cut, heard, rate, edits, player, shown }: Props) {
  const [open, setOpen] = useState(false);
  const [tightening, setTightening] = useState<Tightening>(USUAL_TIGHTENING);
  const [actions, setActions] = useState<Action[]>(ACTIONS.map(({ value }) => value));
  // What can be proposed may come a moment after what was edited.
  const settled = useDeferredValue(cut);
  const all = useMemo(() => proposals(settled, heard, tightening), [settled, heard, tightening]);
  const list = all.filter((one) => actions.includes(actionOf(one)));
  const preview = usePreview(player, cut, shown);
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        Proposals{all.length > 0 && <span className="fig">{all.length}</span>}
      </Button>
      {open && (
        <ProposalsDrawer
          {...{ list, actions, rate, tightening }}
          counts={actionCounts(all)}
          onActions={setActions}
          onTightening={setTightening}
          onShow={({ fromUs }) => player?.seek(fromUs)}
          onPreview={(one) => preview(accept(cut, [one]), one.fromUs)}
          onAccept={(accepted) => edits.edit((now) => accept(now, accepted), accepted[0]?.fromUs ?? 0)}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

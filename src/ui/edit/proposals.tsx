'use client';

import { Button } from 'antd';
import dynamic from 'next/dynamic';
import { type RefObject, useMemo, useState } from 'react';
import type { TakeId } from '@/core/base/ids';
import type { FrameRate } from '@/core/base/rational';
import type { Cut } from '@/core/cut/cut';
import { accept, type HeardTake, proposals, type Tightening, USUAL_TIGHTENING } from '@/core/cut/proposals';
import type { EditPage } from '@/core/views/edit-page';
import type { Player } from '@/player/player';
import type { TakePeaks } from '../player/peaks';
import type { Edits } from './use-edits';
import { usePreview } from './use-preview';

const ProposalsDrawer = dynamic(() => import('./proposals-drawer').then((m) => m.ProposalsDrawer), {
  ssr: false,
});

type Props = {
  cut: Cut;
  takes: EditPage['takes'];
  peaks: ReadonlyMap<TakeId, TakePeaks>;
  rate: FrameRate;
  edits: Edits;
  player: Player | null;
  shown: RefObject<Cut>;
};

/** What could be left out of the video, to accept one by one or all at once. */
export function Proposals({ cut, takes, peaks, rate, edits, player, shown }: Props) {
  const [open, setOpen] = useState(false);
  const [tightening, setTightening] = useState<Tightening>(USUAL_TIGHTENING);
  const heard = useMemo(() => takes.map((take) => heardTake(take, peaks.get(take.id))), [takes, peaks]);
  const list = useMemo(() => proposals(cut, heard, tightening), [cut, heard, tightening]);
  const preview = usePreview(player, cut, shown);
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        Proposals{list.length > 0 && <span className="fig">{list.length}</span>}
      </Button>
      {open && (
        <ProposalsDrawer
          {...{ list, rate, tightening }}
          onTightening={setTightening}
          onShow={({ fromUs }) => player?.seek(fromUs)}
          onPreview={({ fromUs, toUs }) => preview(accept(cut, [{ kind: 'pause', fromUs, toUs }]), fromUs)}
          onAccept={(accepted) => edits.edit((now) => accept(now, accepted), accepted[0]?.fromUs ?? 0)}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

const heardTake = (
  { id, durationUs, marksUs }: EditPage['takes'][number],
  peaks: TakePeaks | undefined,
): HeardTake => ({
  id,
  durationUs: durationUs ?? 0,
  marksUs,
  voice: peaks?.tracks.voice ? { perSecond: peaks.perSecond, values: peaks.tracks.voice } : null,
});

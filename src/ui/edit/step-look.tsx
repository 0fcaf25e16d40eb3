'use client';

import { Collapse, Flex, Tabs } from 'antd';
import type { RefObject } from 'react';
import type { Here } from '@/core/cut/cut';
import { changeStep, setLayout } from '@/core/cut/edits';
import { isSoundOnly } from '@/core/rig/picture-source';
import type { EditPage } from '@/core/views/edit-page';
import type { Player } from '@/player/player';
import { FullScreen } from '../player/full-screen';
import { PlayingSpeed } from '../player/playing-speed';
import { SoundLevel } from '../player/sound-level';
import { Layouts } from './layouts';
import { StepCovers, StepZooms } from './step-areas';
import { StepColours } from './step-colours';
import { StepSound } from './step-sound';
import { StepTime } from './step-time';
import type { Recorded } from './strip-lanes';
import type { Areas } from './use-areas';
import type { CutKeeper } from './use-cut';
import type { Edits } from './use-edits';
import type { EnvelopeEdits } from './use-envelopes';

type Props = {
  here: Here;
  take: EditPage['takes'][number] | undefined;
  keeper: CutKeeper;
  edits: Edits;
  areas: Areas;
  recorded: Recorded;
  envelopes: EnvelopeEdits;
  positionUs: number;
  player: Player | null;
  frame: RefObject<HTMLDivElement | null>;
};

/** How the step at the playhead looks, runs and sounds, and how it is played. */
export function StepLook(props: Props) {
  const { here, take, keeper, edits, positionUs, player, frame } = props;
  const { step } = here;
  return (
    <div className="stack">
      <Tabs
        size="small"
        items={[
          { key: 'picture', label: 'Picture', children: <StepPicture {...props} /> },
          {
            key: 'time',
            label: 'Time',
            children: (
              <StepTime
                {...{ step, keeper, edits, positionUs, player }}
                isFirst={keeper.cut.steps[0]?.id === step.id}
              />
            ),
          },
          {
            key: 'sound',
            label: 'Sound',
            children: (
              <StepSound
                {...{ here, take, keeper, player }}
                recorded={props.recorded}
                envelopes={props.envelopes}
              />
            ),
          },
        ]}
      />
      <fieldset>
        <legend className="small">Playback</legend>
        <Flex align="center" justify="space-between">
          <SoundLevel player={player} />
          <FullScreen frame={frame} />
        </Flex>
        <Flex align="center" justify="space-between" gap={8}>
          <span className="small mute">Speed</span>
          <PlayingSpeed player={player} />
        </Flex>
      </fieldset>
    </div>
  );
}

/** The picture of a step: layout, zooms, covers and colours. */
function StepPicture({ here, take, keeper, edits, areas, positionUs }: Props) {
  const { step } = here;
  const { cut, change } = keeper;
  if (take && isSoundOnly(take.rig)) return <p className="mute">Sound only: there is no picture.</p>;
  const parts = { here, positionUs, keeper, edits, areas };
  return (
    <>
      <Layouts
        layout={step.layout}
        withCamera={take?.withCamera ?? false}
        place={take?.rig.camera?.place ?? null}
        onChange={(layout, how) =>
          how === 'drag'
            ? change(setLayout(cut, step.id, layout), how)
            : edits.edit((now) => setLayout(now, step.id, layout), positionUs)
        }
      />
      <Collapse
        ghost
        size="small"
        className="step-effects"
        items={[
          { key: 'zoom', label: counted('Zoom', step.zooms.length), children: <StepZooms {...parts} /> },
          {
            key: 'covers',
            label: counted('Covers', step.covers.length),
            children: <StepCovers {...parts} />,
          },
          {
            key: 'colours',
            label: 'Colours',
            children: (
              <StepColours
                looks={step.looks}
                withCamera={take?.withCamera ?? false}
                onChange={(looks, how) => change(changeStep(cut, step.id, { looks }), how)}
              />
            ),
          },
        ]}
      />
    </>
  );
}

const counted = (name: string, count: number): string => (count > 0 ? `${name} (${count})` : name);

'use client';

import { Collapse, Flex, Tabs } from 'antd';
import { memo, type RefObject, useDeferredValue } from 'react';
import type { Step } from '@/core/cut/cut';
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
  step: Step;
  takes: EditPage['takes'];
  keeper: CutKeeper;
  edits: Edits;
  areas: Areas;
  recorded: Recorded;
  envelopes: EnvelopeEdits;
  player: Player | null;
  frame: RefObject<HTMLDivElement | null>;
};

/** How the step at the playhead looks, runs and sounds, and how it is played. */
export function StepLook({ frame, ...props }: Props) {
  const { step, takes, keeper, player } = props;
  // Which step it is about may come a moment after the picture of the step: whoever holds a key goes by the picture.
  const settled = useDeferredValue(step.id);
  const shown = keeper.cut.steps.find(({ id }) => id === settled) ?? step;
  const take = takes.find(({ id }) => id === shown.pieces[0]?.take);
  return (
    <div className="stack">
      <StepPanels {...props} step={shown} take={take} />
      <Playback {...{ player, frame }} />
    </div>
  );
}

/** How it is played here. */
const Playback = memo(function Playback({ player, frame }: Pick<Props, 'player' | 'frame'>) {
  return (
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
  );
});

type PanelProps = Omit<Props, 'takes' | 'frame'> & { take: EditPage['takes'][number] | undefined };

/** The tabs of a step. */
const StepPanels = memo(function StepPanels(props: PanelProps) {
  const { step, take, keeper, edits, player } = props;
  return (
    <Tabs
      size="small"
      items={[
        { key: 'picture', label: 'Picture', children: <StepPicture {...props} /> },
        {
          key: 'time',
          label: 'Time',
          children: (
            <StepTime {...{ step, keeper, edits, player }} isFirst={keeper.cut.steps[0]?.id === step.id} />
          ),
        },
        {
          key: 'sound',
          label: 'Sound',
          children: (
            <StepSound
              {...{ step, take, keeper, edits, player }}
              recorded={props.recorded}
              envelopes={props.envelopes}
            />
          ),
        },
      ]}
    />
  );
});

/** The picture of a step: layout, zooms, covers and colours. */
function StepPicture({ step, take, keeper, edits, areas }: PanelProps) {
  const { cut, change } = keeper;
  if (take && isSoundOnly(take.rig)) return <p className="mute">Sound only: there is no picture.</p>;
  const parts = { step, keeper, edits, areas };
  return (
    <>
      <Layouts
        layout={step.layout}
        withCamera={take?.withCamera ?? false}
        place={take?.rig.camera?.place ?? null}
        onChange={(layout, how) =>
          how === 'drag'
            ? change(setLayout(cut, step.id, layout), how)
            : edits.edit((now) => setLayout(now, step.id, layout))
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

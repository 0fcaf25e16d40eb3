'use client';

import { Flex } from 'antd';
import type { RefObject } from 'react';
import type { Step } from '@/core/cut/cut';
import { setGains, setLayout } from '@/core/cut/edits';
import { isSoundOnly } from '@/core/rig/picture-source';
import type { EditPage } from '@/core/views/edit-page';
import type { Player } from '@/player/player';
import { FullScreen } from '../player/full-screen';
import { PlayingSpeed } from '../player/playing-speed';
import { SoundLevel } from '../player/sound-level';
import { Layouts } from './layouts';
import { StepSound } from './step-sound';
import type { CutKeeper } from './use-cut';
import type { Edits } from './use-edits';

/** How the step at the playhead looks and sounds, and how it is played. */
export function StepLook(props: {
  step: Step;
  take: EditPage['takes'][number] | undefined;
  keeper: CutKeeper;
  edits: Edits;
  positionUs: number;
  player: Player | null;
  frame: RefObject<HTMLDivElement | null>;
}) {
  const { step, take, keeper, edits, positionUs, player, frame } = props;
  const { cut, change } = keeper;
  return (
    <div className="stack">
      {take && isSoundOnly(take.rig) ? (
        <p className="mute">Sound only: there is no picture.</p>
      ) : (
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
      )}
      <StepSound
        gains={step.gains}
        withAppSound={take?.rig.appSound !== null}
        onChange={(gains, how) => change(setGains(cut, step.id, gains), how)}
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

'use client';

import { Button, Flex } from 'antd';
import { useMemo, useRef, useState } from 'react';
import { newStepId } from '@/core/base/ids';
import { rateText } from '@/core/base/rational';
import { timecodeText } from '@/core/base/timecode';
import { defaultCut, gainsOf } from '@/core/cut/cut';
import { isSoundOnly } from '@/core/rig/picture-source';
import type { TakePage } from '@/core/views/take-page';
import { playerTake } from '@/player/files';
import { Key } from '../keys/key';
import { FullScreen } from '../player/full-screen';
import { PlaceField } from '../player/place-field';
import { PlayButton } from '../player/play-button';
import { PlayingSpeed } from '../player/playing-speed';
import { SoundLevel } from '../player/sound-level';
import { usePlayed, usePlayer } from '../player/use-player';
import { usePlayerKeys } from '../player/use-player-keys';
import { TimeStrip } from './time-strip';

/** The whole take, all tracks together, as its rig lays them out. */
export function TrackPlayer({ take }: { take: TakePage }) {
  const frame = useRef<HTMLDivElement>(null);
  // A voice that was processed is a file of its own.
  const files = take.facts?.heard?.length ? (take.facts.madeAt ?? '') : 'as-recorded';
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is only known better of the same files changes nothing
  const source = useMemo(() => playerTake(take), [files]);
  const [cut] = useState(() =>
    defaultCut(newStepId(), {
      id: take.id,
      durationUs: source.durationUs,
      camera: take.rig.camera?.place ?? null,
      gains: gainsOf(take.rig),
    }),
  );
  const player = usePlayer(frame, [source], cut, files);
  const state = usePlayed(player, (all) => all);
  usePlayerKeys(player);

  const rate = take.rig.picture.frameRate;
  const [width, height] = [state.size?.width ?? 16, state.size?.height ?? 9];
  return (
    <div
      className="player"
      data-loaded={state.loaded}
      data-exact={state.exact}
      data-position={state.positionUs}
    >
      <div style={{ position: 'relative' }}>
        <div
          className={isSoundOnly(take.rig) ? 'screen sound-only' : 'screen'}
          ref={frame}
          style={{ aspectRatio: `${width} / ${height}` }}
        />
        {!state.loaded && !state.failure && (
          <Flex className="over waiting" align="center" justify="center">
            Opening the take …
          </Flex>
        )}
      </div>
      {state.failure && (
        <p role="alert" className="small">
          {state.failure}
        </p>
      )}
      <TimeStrip
        take={take}
        positionUs={state.positionUs}
        durationUs={state.durationUs}
        onSeek={(us) => player?.seek(us)}
      />
      <div className="row transport">
        <PlayButton player={player} />
        <Button disabled={!state.loaded} onClick={() => player?.step(-1)} aria-label="One frame back">
          ◂ frame <Key of="play.frame-back" />
        </Button>
        <Button disabled={!state.loaded} onClick={() => player?.step(1)} aria-label="One frame on">
          frame ▸ <Key of="play.frame-on" />
        </Button>
        <PlaceField
          positionUs={state.positionUs}
          durationUs={state.durationUs}
          rate={rate}
          onSeek={(us) => player?.seek(us)}
        />
        <span className="mute">of {timecodeText(state.durationUs, rate)}</span>
        <PlayingSpeed player={player} />
        <SoundLevel player={player} />
        <FullScreen frame={frame} />
        <span className="grow" />
        <span className="small mute">minutes:seconds:frames at {rateText(rate)} fps</span>
      </div>
    </div>
  );
}

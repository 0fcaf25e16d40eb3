'use client';

import { type ReactNode, type RefObject, useMemo, useRef, useState } from 'react';
import type { StepId } from '@/core/base/ids';
import { type Cut, cutLengthUs, placedPieces, placedSteps, stepTitle } from '@/core/cut/cut';
import { markTitle, type PlacedMark } from '@/core/cut/marks';
import type { Player } from '@/player/player';
import { PlaceStrip, STRIP_WIDTH } from '../player/place-strip';
import { usePlayed } from '../player/use-player';
import { useSame } from '../wire/use-same';
import { PlayJoint } from './play-joint';
import type { Range } from './range';
import { StepsBand } from './steps-band';
import { EnvelopeHandles, EnvelopeLines } from './strip-envelopes';
import { ChosenHandles, MarkHandle, StepEnds } from './strip-handles';
import { lanesOf, type Recorded, StripLanes } from './strip-lanes';
import { Ruler, StripSigns } from './strip-signs';
import { StripZoom } from './strip-zoom';
import type { EnvelopeEdits } from './use-envelopes';
import type { StripDrags } from './use-strip-drags';

type Props = {
  cut: Cut;
  recorded: Recorded;
  marks: readonly PlacedMark[];
  player: Player | null;
  chosen: Range | null;
  /** What would be left if heads and tails were trimmed. */
  proposed: Range | null;
  step: StepId;
  onChoose: (range: Range) => void;
  onStep: (id: StepId) => void;
  drags: StripDrags;
  envelopes: EnvelopeEdits;
  /** Plays across a place of the video. */
  onJoint: (us: number, loops: boolean) => void;
};

/** The cut from end to end: its steps, the sounds, marks, what is chosen, and the place. All places are µs of the video. */
export function EditStrip(props: Props) {
  const { cut, recorded, marks, drags, player, chosen } = props;
  const strip = useRef<HTMLDivElement>(null);
  const [zoom, setZoom] = useState(1);
  const lengthUs = cutLengthUs(cut);
  const { usPerPixel } = useSame({
    usPerPixel: () => lengthUs / Math.max(1, strip.current?.clientWidth ?? 1),
  });
  const { height } = useMemo(() => lanesOf(cut, recorded), [cut, recorded]);
  const marksUs = useMemo(() => marks.map(({ us }) => us), [marks]);
  const here = placedSteps(cut).find(({ step }) => step.id === props.step);
  return (
    <StripZoom
      {...{ player, lengthUs, zoom }}
      onZoom={setZoom}
      beside={<PlayJoint {...{ cut, player }} onPlay={props.onJoint} />}
    >
      <StepsBand {...{ cut, lengthUs, zoom }} here={props.step} onStep={props.onStep} />
      <Ruler lengthUs={lengthUs} zoom={zoom} />
      <div className="lanes">
        <PlayedStrip
          {...{ player, strip, height, lengthUs }}
          drawing={
            <>
              <StripLanes cut={cut} recorded={recorded} width={STRIP_WIDTH} />
              <EnvelopeLines cut={cut} recorded={recorded} width={STRIP_WIDTH} />
            </>
          }
        >
          <StripSigns
            {...{ cut, recorded, lengthUs, player, chosen }}
            marksUs={marksUs}
            proposed={props.proposed}
          />
        </PlayedStrip>
        {chosen && (
          <ChosenHandles
            {...{ chosen, lengthUs, usPerPixel }}
            points={() => [
              ...placedPieces(cut).map(({ startUs }) => startUs),
              ...marksUs,
              Math.min(player?.store.getState().positionUs ?? 0, lengthUs),
            ]}
            onChoose={props.onChoose}
          />
        )}
        {marks.map((mark, i) => (
          <MarkHandle
            key={`${mark.take} ${mark.setUs}`}
            {...{ mark, lengthUs, usPerPixel }}
            name={markTitle(mark, i)}
            onMove={drags.mark}
          />
        ))}
        {here && (
          <StepEnds
            title={stepTitle(cut, here.step.id)}
            {...{ startUs: here.startUs, endUs: here.endUs, lengthUs, usPerPixel }}
            onEnd={(end, byUs, done) => drags.end(here.step.id, end, byUs, done)}
          />
        )}
        {here && (
          <EnvelopeHandles
            {...{ cut, recorded, lengthUs, usPerPixel }}
            step={here.step}
            startUs={here.startUs}
            onDrag={props.envelopes.drag}
          />
        )}
      </div>
    </StripZoom>
  );
}

/** The strip itself. Of all that lies on it only this is drawn again with every picture, and the playhead. */
function PlayedStrip(props: {
  player: Player | null;
  strip: RefObject<HTMLDivElement | null>;
  height: number;
  lengthUs: number;
  drawing: ReactNode;
  children: ReactNode;
}) {
  const { player, lengthUs } = props;
  const positionUs = usePlayed(player, (state) => Math.min(state.positionUs, lengthUs));
  return (
    <PlaceStrip
      {...props}
      label="Place in the video"
      positionUs={positionUs}
      onSeek={(us) => player?.seek(us)}
    />
  );
}

'use client';

import { useRef, useState } from 'react';
import type { StepId, TakeId } from '@/core/base/ids';
import { type Cut, cutLengthUs, placedPieces } from '@/core/cut/cut';
import type { TakePeaks } from '../player/peaks';
import { PlaceStrip, STRIP_WIDTH } from '../player/place-strip';
import { PlayJoint } from './play-joint';
import type { Range } from './range';
import { ChosenHandles, EndHandle } from './strip-handles';
import { LANES_HEIGHT, Ruler, SoundLanes, StepsBand, StripSigns } from './strip-signs';
import { StripZoom } from './strip-zoom';

/** The cut from end to end: its steps, the sounds, marks, what is chosen, and the place. All places are µs of the video. */
export function EditStrip(props: {
  cut: Cut;
  peaks: ReadonlyMap<TakeId, TakePeaks>;
  marksUs: readonly number[];
  positionUs: number;
  chosen: Range | null;
  /** What would be left if heads and tails were trimmed. */
  proposed: Range | null;
  step: StepId;
  onSeek: (us: number) => void;
  onChoose: (range: Range) => void;
  onStep: (id: StepId) => void;
  onEnd: (end: 'start' | 'end', byUs: number, done: boolean) => void;
  /** Plays across a place of the video. */
  onJoint: (us: number) => void;
}) {
  const { cut, peaks, positionUs, chosen } = props;
  const strip = useRef<HTMLDivElement>(null);
  const [zoom, setZoom] = useState(1);
  const lengthUs = cutLengthUs(cut);
  const usPerPixel = () => lengthUs / Math.max(1, strip.current?.clientWidth ?? 1);
  return (
    <StripZoom
      at={positionUs / lengthUs}
      zoom={zoom}
      onZoom={setZoom}
      beside={<PlayJoint cut={cut} positionUs={positionUs} onPlay={props.onJoint} />}
    >
      <StepsBand cut={cut} lengthUs={lengthUs} here={props.step} onStep={props.onStep} />
      <Ruler lengthUs={lengthUs} zoom={zoom} />
      <div className="lanes">
        <PlaceStrip
          label="Place in the video"
          strip={strip}
          height={LANES_HEIGHT}
          positionUs={positionUs}
          lengthUs={lengthUs}
          onSeek={props.onSeek}
          drawing={<SoundLanes cut={cut} peaks={peaks} width={STRIP_WIDTH} />}
        >
          <StripSigns
            {...{ cut, peaks, lengthUs, positionUs, chosen }}
            marksUs={props.marksUs}
            proposed={props.proposed}
          />
        </PlaceStrip>
        {chosen && (
          <ChosenHandles
            {...{ chosen, lengthUs, usPerPixel }}
            points={[...placedPieces(cut).map(({ startUs }) => startUs), ...props.marksUs, positionUs]}
            onChoose={props.onChoose}
          />
        )}
        {(['start', 'end'] as const).map((end) => (
          <EndHandle key={end} end={end} usPerPixel={usPerPixel} onEnd={props.onEnd} />
        ))}
      </div>
    </StripZoom>
  );
}

'use client';

import { scaleLinear } from 'd3-scale';
import { useRef } from 'react';
import type { TakePage } from '@/core/views/take-page';
import { SOUND_TRACKS, soundColour, usePeaks, waveform } from '../player/peaks';
import { PlaceStrip, STRIP_WIDTH } from '../player/place-strip';

const LANE = 30;

/** The take from end to end: the waveform of each sound in its colour, the playhead, and seeking by pointer. */
export function TimeStrip(props: {
  take: TakePage;
  positionUs: number;
  durationUs: number;
  onSeek: (us: number) => void;
}) {
  const { take, positionUs, durationUs } = props;
  const strip = useRef<HTMLDivElement>(null);
  const peaks = usePeaks(take.facts === null ? [] : [take.id]).get(take.id);
  const lanes = SOUND_TRACKS.filter((track) => peaks?.tracks[track]);
  const height = Math.max(1, lanes.length) * LANE;
  const x = scaleLinear([0, Math.max(1, durationUs)], [0, STRIP_WIDTH]);
  const whole = { fromUs: 0, toUs: durationUs, atUs: 0 };
  return (
    <PlaceStrip
      label="Place in the take"
      strip={strip}
      height={height}
      positionUs={positionUs}
      lengthUs={durationUs}
      onSeek={props.onSeek}
      drawing={
        <>
          {lanes.map((track, lane) => (
            <path
              key={track}
              d={waveform(peaks, track, whole, x, { top: lane * LANE, height: LANE })}
              fill={soundColour(track)}
            />
          ))}
          <line
            x1={x(positionUs)}
            x2={x(positionUs)}
            y1="0"
            y2={height}
            stroke="var(--ink)"
            strokeWidth="2"
            vectorEffect="non-scaling-stroke"
          />
        </>
      }
    />
  );
}

'use client';

import { Button } from 'antd';
import { scaleLinear } from 'd3-scale';
import { useRef, useState } from 'react';
import { clockText } from '@/core/base/figures';
import type { StepId, TakeId } from '@/core/base/ids';
import { type Cut, cutLengthUs, type Placed, placedPieces, placedSteps, stepTitle } from '@/core/cut/cut';
import { TRACK_NAMES } from '@/core/recording/take';
import { SOUND_TRACKS, soundColour, type TakePeaks, waveform } from '../player/peaks';
import { PlaceStrip, STRIP_WIDTH } from '../player/place-strip';
import { useHandle } from '../wire/use-handle';
import { StripZoom } from './strip-zoom';

export type Range = { fromUs: number; toUs: number };

const LANE = 34;
/** About so many times are written above the strip. */
const RULER_TICKS = 8;

/** Whole seconds, evenly apart, that divide the strip into about as many parts as can be read. */
const rulerTicks = (lengthUs: number, zoom: number): number[] =>
  scaleLinear([0, lengthUs / 1e6], [0, 1])
    .ticks(RULER_TICKS * zoom)
    .filter(Number.isInteger)
    .map((s) => s * 1e6);

/** The cut from end to end: its steps, the sounds, marks, what is chosen, and the place. All places are µs of the video. */
export function EditStrip(props: {
  cut: Cut;
  peaks: Map<TakeId, TakePeaks>;
  marksUs: number[];
  positionUs: number;
  chosen: Range | null;
  /** What would be left if heads and tails were trimmed. */
  proposed: Range | null;
  step: StepId;
  onSeek: (us: number) => void;
  onChoose: (range: Range) => void;
  onStep: (id: StepId) => void;
  onEnd: (end: 'start' | 'end', byUs: number, done: boolean) => void;
}) {
  const { cut, peaks, positionUs, chosen, proposed } = props;
  const strip = useRef<HTMLDivElement>(null);
  const [zoom, setZoom] = useState(1);
  const lengthUs = cutLengthUs(cut);
  const x = scaleLinear([0, lengthUs], [0, STRIP_WIDTH]);
  const share = (us: number) => `${(100 * us) / lengthUs}%`;
  const usPerPixel = () => lengthUs / Math.max(1, strip.current?.clientWidth ?? 1);
  const pieces = placedPieces(cut);
  return (
    <StripZoom at={positionUs / lengthUs} zoom={zoom} onZoom={setZoom}>
      <ol className="stretches" aria-label="Steps">
        {placedSteps(cut).map(({ step, startUs, endUs }) => (
          <li key={step.id} style={{ width: share(endUs - startUs) }}>
            <Button
              block
              size="small"
              color={step.id === props.step ? 'primary' : 'default'}
              variant={step.id === props.step ? 'filled' : 'outlined'}
              aria-pressed={step.id === props.step}
              onClick={() => props.onStep(step.id)}
            >
              <span className="cut-off">{stepTitle(cut, step.id)}</span>
            </Button>
          </li>
        ))}
      </ol>
      <div className="ruler small mute" aria-hidden="true">
        {rulerTicks(lengthUs, zoom).map((us) => (
          <span key={us} style={{ left: share(us) }}>
            {clockText(us)}
          </span>
        ))}
      </div>
      <div className="lanes">
        <PlaceStrip
          label="Place in the video"
          strip={strip}
          height={SOUND_TRACKS.length * LANE}
          positionUs={positionUs}
          lengthUs={lengthUs}
          onSeek={props.onSeek}
          drawing={
            <>
              {SOUND_TRACKS.map((track, lane) =>
                pieces.map(({ piece, startUs: atUs }) => (
                  <path
                    key={`${track}-${atUs}`}
                    d={waveform(
                      peaks.get(piece.take),
                      track,
                      { fromUs: piece.inUs, toUs: piece.outUs, atUs },
                      x,
                      { top: lane * LANE, height: LANE },
                    )}
                    fill={soundColour(track)}
                  />
                )),
              )}
              {pieces.slice(1).map(({ startUs: at }) => (
                <line
                  key={at}
                  className="seam"
                  x1={x(at)}
                  x2={x(at)}
                  y1="0"
                  y2={SOUND_TRACKS.length * LANE}
                />
              ))}
            </>
          }
        >
          {SOUND_TRACKS.filter((track) =>
            pieces.some(({ piece }) => peaks.get(piece.take)?.tracks[track]),
          ).map((track) => (
            <span
              key={track}
              className="lane-name"
              style={{
                top: SOUND_TRACKS.indexOf(track) * LANE + 1,
                color: soundColour(track),
              }}
            >
              {TRACK_NAMES[track]}
            </span>
          ))}
          {proposed && proposed.fromUs > 0 && (
            <span className="dull" style={{ left: 0, width: share(proposed.fromUs) }} />
          )}
          {proposed && proposed.toUs < lengthUs && (
            <span className="dull" style={{ left: share(proposed.toUs), right: 0 }} />
          )}
          {joints(pieces).map(({ us, name }) => (
            <span key={us} className="joint" style={{ left: share(us) }} title={name} />
          ))}
          {props.marksUs.map((us) => (
            <span key={us} className="mark" style={{ left: share(us) }} title={`Mark at ${clockText(us)}`} />
          ))}
          {chosen && (
            <span
              className="chosen"
              style={{ left: share(chosen.fromUs), width: share(chosen.toUs - chosen.fromUs) }}
            />
          )}
          <span className="playhead" style={{ left: share(positionUs) }} />
        </PlaceStrip>
        {chosen && (
          <>
            <ChosenHandle
              label="In point"
              left={share(chosen.fromUs)}
              atUs={chosen.fromUs}
              usPerPixel={usPerPixel}
              onMove={(us) =>
                props.onChoose({ ...chosen, fromUs: Math.max(0, Math.min(us, chosen.toUs - 1)) })
              }
            />
            <ChosenHandle
              label="Out point"
              left={share(chosen.toUs)}
              atUs={chosen.toUs}
              usPerPixel={usPerPixel}
              onMove={(us) =>
                props.onChoose({ ...chosen, toUs: Math.min(lengthUs, Math.max(us, chosen.fromUs + 1)) })
              }
            />
          </>
        )}
        {(['start', 'end'] as const).map((end) => (
          <EndHandle key={end} end={end} usPerPixel={usPerPixel} onEnd={props.onEnd} />
        ))}
      </div>
    </StripZoom>
  );
}

/** Where two pieces meet, and what lay between them. */
function joints(pieces: readonly Placed[]): { us: number; name: string }[] {
  return pieces.slice(1).flatMap(({ piece, startUs, step }, i) => {
    const before = pieces[i];
    if (!before) return [];
    const goneUs = piece.inUs - before.piece.outUs;
    if (piece.take !== before.piece.take || goneUs < 0)
      return before.step.id === step.id
        ? [{ us: startUs, name: 'A different part of the take follows' }]
        : [];
    return goneUs === 0 ? [] : [{ us: startUs, name: `${(goneUs / 1e6).toFixed(1)} s deleted here` }];
  });
}

/** One end of what is chosen. */
function ChosenHandle(props: {
  label: string;
  left: string;
  atUs: number;
  usPerPixel: () => number;
  onMove: (us: number) => void;
}) {
  const grip = useHandle<null, number>(props.atUs, (_, from, dx) =>
    props.onMove(from + Math.round(dx * props.usPerPixel())),
  );
  return (
    <button
      type="button"
      className="handle"
      aria-label={props.label}
      style={{ left: props.left }}
      {...grip(null)}
    />
  );
}

/** One of the video's ends: dragged inwards it trims, outwards it brings back what was trimmed. */
function EndHandle(props: {
  end: 'start' | 'end';
  usPerPixel: () => number;
  onEnd: (end: 'start' | 'end', byUs: number, done: boolean) => void;
}) {
  const { end, usPerPixel, onEnd } = props;
  // What a pixel is worth changes with the video's length, which is what is dragged: it stays what it was at the start.
  const worth = useRef(0);
  const grip = useHandle<null, () => number>(usPerPixel, (_, from, dx, __, { byKeys, done }) => {
    worth.current ||= from();
    const byUs = Math.round(dx * (byKeys ? usPerPixel() : worth.current));
    if (done) worth.current = 0;
    onEnd(end, byUs, done);
  });
  return (
    <button
      type="button"
      className={`handle end ${end}`}
      aria-label={end === 'start' ? 'Where the video begins' : 'Where the video ends'}
      {...grip(null)}
    />
  );
}

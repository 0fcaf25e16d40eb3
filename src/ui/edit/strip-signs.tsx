'use client';

import { Button } from 'antd';
import { scaleLinear } from 'd3-scale';
import { memo } from 'react';
import { clockText } from '@/core/base/figures';
import type { StepId, TakeId } from '@/core/base/ids';
import {
  type Cut,
  cutLengthUs,
  type Placed,
  placedPieces,
  placedSteps,
  SPEED,
  stepTitles,
} from '@/core/cut/cut';
import { TRACK_NAMES } from '@/core/recording/take';
import { SOUND_TRACKS, soundColour, type TakePeaks, waveform } from '../player/peaks';
import { effectSpans } from './effect-spans';
import type { Range } from './range';

/** Height of one sound. */
const LANE = 34;
export const LANES_HEIGHT = SOUND_TRACKS.length * LANE;

const share = (us: number, lengthUs: number) => `${(100 * us) / lengthUs}%`;

/** The steps above the strip, each as wide as it is long. */
export const StepsBand = memo(function StepsBand(props: {
  cut: Cut;
  lengthUs: number;
  here: StepId;
  onStep: (id: StepId) => void;
}) {
  const { cut, lengthUs, here, onStep } = props;
  const titles = stepTitles(cut);
  return (
    <ol className="stretches" aria-label="Steps">
      {placedSteps(cut).map(({ step, startUs, endUs }, i) => (
        <BandStep
          key={step.id}
          id={step.id}
          title={titles[i] ?? ''}
          width={share(endUs - startUs, lengthUs)}
          isHere={step.id === here}
          onStep={onStep}
        />
      ))}
    </ol>
  );
});

/** One of them: of hundreds, two are drawn again when the playhead goes from step to step. */
const BandStep = memo(function BandStep(props: {
  id: StepId;
  title: string;
  width: string;
  isHere: boolean;
  onStep: (id: StepId) => void;
}) {
  const { id, title, width, isHere, onStep } = props;
  return (
    <li style={{ width }}>
      <Button
        block
        size="small"
        color={isHere ? 'primary' : 'default'}
        variant={isHere ? 'filled' : 'outlined'}
        aria-pressed={isHere}
        onClick={() => onStep(id)}
      >
        <span className="cut-off">{title}</span>
      </Button>
    </li>
  );
});

/** About so many times are written above the strip. */
const RULER_TICKS = 8;

/** Whole seconds, evenly apart, that divide the strip into about as many parts as can be read. */
const rulerTicks = (lengthUs: number, zoom: number): number[] =>
  scaleLinear([0, lengthUs / 1e6], [0, 1])
    .ticks(RULER_TICKS * zoom)
    .filter(Number.isInteger)
    .map((s) => s * 1e6);

export function Ruler({ lengthUs, zoom }: { lengthUs: number; zoom: number }) {
  return (
    <div className="ruler small mute" aria-hidden="true">
      {rulerTicks(lengthUs, zoom).map((us) => (
        <span key={us} style={{ left: share(us, lengthUs) }}>
          {clockText(us)}
        </span>
      ))}
    </div>
  );
}

type Sounds = { cut: Cut; peaks: ReadonlyMap<TakeId, TakePeaks> };

/** The sounds of the cut, one below the other, and the seams between its pieces. @param width of the drawing */
export const SoundLanes = memo(function SoundLanes({ cut, peaks, width }: Sounds & { width: number }) {
  const x = scaleLinear([0, cutLengthUs(cut)], [0, width]);
  const pieces = placedPieces(cut);
  return (
    <>
      {SOUND_TRACKS.map((track, lane) =>
        pieces
          .filter(isHeard)
          .map(({ piece, step: { speed }, startUs: atUs }) => (
            <path
              key={`${track}-${atUs}`}
              d={waveform(
                peaks.get(piece.take),
                track,
                { fromUs: piece.inUs, toUs: piece.outUs, atUs, speed },
                x,
                { top: lane * LANE, height: LANE },
              )}
              fill={soundColour(track)}
            />
          )),
      )}
      {pieces.slice(1).map(({ startUs: at }) => (
        <line key={at} className="seam" x1={x(at)} x2={x(at)} y1="0" y2={LANES_HEIGHT} />
      ))}
    </>
  );
});

const isHeard = ({ piece, step }: Placed): boolean =>
  piece.heldUs === undefined && step.speed <= SPEED.mostHeard;

type Signs = Sounds & {
  lengthUs: number;
  marksUs: readonly number[];
  proposed: Range | null;
};

/** Over the sounds: effects, the names of the tracks, what would be trimmed, joints and marks. */
const StandingSigns = memo(function StandingSigns({ cut, peaks, lengthUs, marksUs, proposed }: Signs) {
  const pieces = placedPieces(cut);
  const left = (us: number) => ({ left: share(us, lengthUs) });
  return (
    <>
      {effectSpans(cut).map(({ kind, fromUs, toUs, name }, i) => (
        <span
          // biome-ignore lint/suspicious/noArrayIndexKey: two covers may hide the same moments
          key={i}
          className={`effect ${kind}`}
          style={{ ...left(fromUs), width: share(toUs - fromUs, lengthUs) }}
          title={name}
        />
      ))}
      {SOUND_TRACKS.filter((track) => pieces.some(({ piece }) => peaks.get(piece.take)?.tracks[track])).map(
        (track) => (
          <span
            key={track}
            className="lane-name"
            style={{ top: SOUND_TRACKS.indexOf(track) * LANE + 1, color: soundColour(track) }}
          >
            {TRACK_NAMES[track]}
          </span>
        ),
      )}
      {proposed && proposed.fromUs > 0 && (
        <span className="dull" style={{ left: 0, width: share(proposed.fromUs, lengthUs) }} />
      )}
      {proposed && proposed.toUs < lengthUs && (
        <span className="dull" style={{ ...left(proposed.toUs), right: 0 }} />
      )}
      {joints(pieces).map(({ us, name }) => (
        <span key={us} className="joint" style={left(us)} title={name} />
      ))}
      {marksUs.map((us) => (
        <span key={us} className="mark" style={left(us)} title={`Mark at ${clockText(us)}`} />
      ))}
    </>
  );
});

/** Everything over the sounds: what stands, and what moves with every key, what is chosen and the place. */
export function StripSigns({
  chosen,
  positionUs,
  ...standing
}: Signs & { positionUs: number; chosen: Range | null }) {
  const left = (us: number) => ({ left: share(us, standing.lengthUs) });
  return (
    <>
      <StandingSigns {...standing} />
      {chosen && (
        <span
          className="chosen"
          style={{ ...left(chosen.fromUs), width: share(chosen.toUs - chosen.fromUs, standing.lengthUs) }}
        />
      )}
      <span className="playhead" style={left(positionUs)} />
    </>
  );
}

/** Where two pieces meet, and what lay between them. */
function joints(pieces: readonly Placed[]): { us: number; name: string }[] {
  return pieces.slice(1).flatMap(({ piece, startUs, step }, i) => {
    const before = pieces[i];
    if (!before) return [];
    const goneUs = piece.inUs - before.piece.outUs;
    // Where a picture begins or ends to be held nothing is missing.
    if (piece.heldUs !== undefined || before.piece.heldUs !== undefined) return [];
    if (piece.take !== before.piece.take || goneUs < 0)
      return before.step.id === step.id
        ? [{ us: startUs, name: 'A different part of the take follows' }]
        : [];
    return goneUs === 0 ? [] : [{ us: startUs, name: `${(goneUs / 1e6).toFixed(1)} s deleted here` }];
  });
}

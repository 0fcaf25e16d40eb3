'use client';

import { Button } from 'antd';
import { scaleLinear } from 'd3-scale';
import { memo } from 'react';
import { clockText } from '@/core/base/figures';
import type { StepId } from '@/core/base/ids';
import { type Cut, type Placed, placedPieces, placedSteps, stepTitles } from '@/core/cut/cut';
import { TRACK_NAMES } from '@/core/recording/take';
import type { Player } from '@/player/player';
import { usePlayed } from '../player/use-player';
import { effectSpans } from './effect-spans';
import type { Range } from './range';
import { isInLane, lanesOf, type Recorded } from './strip-lanes';

const share = (us: number, lengthUs: number) => `${(100 * us) / lengthUs}%`;

/** Less of the strip than this is no room for a title: of hundreds of steps none has one, and none is painted. */
const NAMED_SHARE = 0.02;

/** The steps above the strip, each as wide as it is long. */
export const StepsBand = memo(function StepsBand(props: {
  cut: Cut;
  lengthUs: number;
  zoom: number;
  here: StepId;
  onStep: (id: StepId) => void;
}) {
  const { cut, lengthUs, zoom, here, onStep } = props;
  const titles = stepTitles(cut);
  return (
    <ol className="stretches" aria-label="Steps">
      {placedSteps(cut).map(({ step, startUs, endUs }, i) => (
        <BandStep
          key={step.id}
          id={step.id}
          title={titles[i] ?? ''}
          width={share(endUs - startUs, lengthUs)}
          isNamed={(zoom * (endUs - startUs)) / lengthUs >= NAMED_SHARE}
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
  isNamed: boolean;
  isHere: boolean;
  onStep: (id: StepId) => void;
}) {
  const { id, title, width, isNamed, isHere, onStep } = props;
  return (
    <li style={{ width }}>
      <Button
        block
        size="small"
        className={isNamed ? '' : 'narrow'}
        color={isHere ? 'primary' : 'default'}
        variant={isHere ? 'filled' : 'outlined'}
        aria-pressed={isHere}
        aria-label={title}
        onClick={() => onStep(id)}
      >
        {isNamed && <span className="cut-off">{title}</span>}
      </Button>
    </li>
  );
});

/** About so many times are written above the strip. */
const RULER_TICKS = 8;

/** Share of the strip's width that a time code takes. */
const LABEL_SHARE = 0.035;

/** Whole seconds, evenly apart, that divide the strip into about as many parts as can be read; none whose time code would be cut off by the strip's end. */
const rulerTicks = (lengthUs: number, zoom: number): number[] =>
  scaleLinear([0, lengthUs / 1e6], [0, 1])
    .ticks(RULER_TICKS * zoom)
    .filter((s) => Number.isInteger(s) && s <= (lengthUs / 1e6) * (1 - LABEL_SHARE / zoom))
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

type Signs = {
  cut: Cut;
  recorded: Recorded;
  lengthUs: number;
  marksUs: readonly number[];
  proposed: Range | null;
};

/** Over the sounds: effects, the names of the tracks, what would be trimmed, joints and marks. */
const StandingSigns = memo(function StandingSigns({ cut, recorded, lengthUs, marksUs, proposed }: Signs) {
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
      {lanesOf(cut, recorded)
        .lanes.filter(({ track }) => pieces.some((at) => isInLane(track, at, recorded)))
        .map(({ track, top, colour }) => (
          <span key={track} className="lane-name" style={{ top: top + 1, color: colour }}>
            {TRACK_NAMES[track]}
          </span>
        ))}
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

/** Moved by a transform: with a place of its own it would have the whole strip put together again for every picture. */
function Playhead({ player, lengthUs }: { player: Player | null; lengthUs: number }) {
  const left = usePlayed(player, ({ positionUs }) => Math.min(0, positionUs / lengthUs - 1));
  return <span className="playhead" style={{ transform: `translateX(${100 * left}%)` }} />;
}

/** Everything over the sounds: what stands, and what moves, what is chosen and the place. */
export function StripSigns({
  chosen,
  player,
  ...standing
}: Signs & { player: Player | null; chosen: Range | null }) {
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
      <Playhead player={player} lengthUs={standing.lengthUs} />
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

'use client';

import { scaleLinear } from 'd3-scale';
import { memo } from 'react';
import { clockText } from '@/core/base/figures';
import { type Cut, type Placed, placedPieces } from '@/core/cut/cut';
import { TRACK_NAMES } from '@/core/recording/take';
import type { Player } from '@/player/player';
import { usePlayed } from '../player/use-player';
import { effectSpans } from './effect-spans';
import type { Range } from './range';
import { isInLane, lanesOf, type Recorded } from './strip-lanes';

const share = (us: number, lengthUs: number) => `${(100 * us) / lengthUs}%`;

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
      <div className="standing">
        <StandingSigns {...standing} />
      </div>
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

import { type ScaleLinear, scaleLinear } from 'd3-scale';
import { memo } from 'react';
import type { TakeId } from '@/core/base/ids';
import { type Cut, cutLengthUs, type Placed, placedPieces, SPEED } from '@/core/cut/cut';
import { showsCamera } from '@/core/layout/layout-kinds';
import type { TrackKind } from '@/core/recording/take';
import { soundColour, type TakePeaks, waveform } from '../player/peaks';

/** What the strip shows one below the other: where each picture is seen, and each sound. */
export type Lane = { track: TrackKind; top: number; height: number; colour: string };

const PICTURE = 14;
const SOUND = 30;
const ALL: readonly Omit<Lane, 'top'>[] = [
  { track: 'screen', height: PICTURE, colour: 'var(--river)' },
  { track: 'camera', height: PICTURE, colour: 'var(--plum)' },
  { track: 'voice', height: SOUND, colour: soundColour('voice') },
  { track: 'app-sound', height: SOUND, colour: soundColour('app-sound') },
];

/** The lanes that a cut has anything for; both sounds always, so that nothing moves when their waveforms come. */
export function lanesOf(cut: Cut, recorded: Recorded): { lanes: Lane[]; height: number } {
  const pieces = placedPieces(cut);
  const isThere = ({ track, height }: Omit<Lane, 'top'>) =>
    height === SOUND || pieces.some((at) => isInLane(track, at, recorded));
  let top = 0;
  const lanes = ALL.filter(isThere).map((lane) => {
    const placed = { ...lane, top };
    top += lane.height;
    return placed;
  });
  return { lanes, height: top };
}

/** What the lanes are drawn of, beside the cut. */
export type Recorded = {
  peaks: ReadonlyMap<TakeId, TakePeaks>;
  /** Tracks of each take. */
  tracks: ReadonlyMap<TakeId, ReadonlySet<TrackKind>>;
};

/** Whether a piece has something in a lane. */
export function isInLane(track: TrackKind, at: Placed, { peaks, tracks }: Recorded): boolean {
  const { layout } = at.step;
  const { take } = at.piece;
  if (track === 'screen') return layout.kind !== 'camera' && tracks.get(take)?.has(track) === true;
  if (track === 'camera') return showsCamera(layout) && tracks.get(take)?.has(track) === true;
  return (
    isHeard(at) &&
    (track === 'voice' || track === 'app-sound') &&
    peaks.get(take)?.tracks[track] !== undefined
  );
}

const isHeard = ({ piece, step }: Placed): boolean =>
  piece.heldUs === undefined && step.speed <= SPEED.mostHeard;

/**
 * The lanes' drawing, and the seams between the pieces. Each is one path, however many pieces it has: with an element for each of
 * hundreds of pieces, every handle over them takes a browser twice as long.
 * @param width of the drawing
 */
export const StripLanes = memo(function StripLanes(props: { cut: Cut; recorded: Recorded; width: number }) {
  const { cut, recorded, width } = props;
  const { lanes, height } = lanesOf(cut, recorded);
  const x = scaleLinear([0, cutLengthUs(cut)], [0, width]);
  const pieces = placedPieces(cut);
  const seams = pieces.slice(1).map(({ startUs }) => `M${x(startUs)} 0V${height}`);
  return (
    <>
      {lanes.map((lane) => (
        <InLane
          key={lane.track}
          {...{ lane, recorded, x }}
          pieces={pieces.filter((at) => isInLane(lane.track, at, recorded))}
        />
      ))}
      {seams.length > 0 && <path className="seam" d={seams.join('')} />}
    </>
  );
});

type Scale = ScaleLinear<number, number>;

/** All pieces in one of the lanes: bars for pictures, a waveform for a sound. */
function InLane(props: { lane: Lane; pieces: Placed[]; recorded: Recorded; x: Scale }) {
  const { lane, pieces, recorded, x } = props;
  const { track, colour } = lane;
  if (track === 'voice' || track === 'app-sound') {
    const waves = pieces.map(({ piece, step, startUs }) =>
      waveform(
        recorded.peaks.get(piece.take),
        track,
        { fromUs: piece.inUs, toUs: piece.outUs, atUs: startUs, speed: step.speed },
        x,
        lane,
      ),
    );
    return <path d={waves.join('')} fill={colour} />;
  }
  const bars = (isHeld: boolean) =>
    pieces
      .filter(({ piece }) => (piece.heldUs !== undefined) === isHeld)
      .map((at) => bar(at, lane, x))
      .join('');
  return (
    <>
      <path d={bars(false)} fill={colour} opacity={0.4} />
      {/* A held frame is there, and nothing moves in it. */}
      <path d={bars(true)} fill={colour} opacity={0.2} />
    </>
  );
}

const bar = ({ startUs, endUs }: Placed, { top, height }: Lane, x: Scale): string =>
  `M${x(startUs)} ${top + 3}H${x(endUs)}v${height - 6}H${x(startUs)}Z`;

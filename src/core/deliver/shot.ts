import type { FrameRate } from '../base/rational';
import { type Cover, spansBetween, type View, views } from '../cut/area';
import { stepTimeUs } from '../cut/cut';
import { type Looks, UNCHANGED_LOOKS } from '../cut/looks';
import { type Layout, showsCamera } from '../layout/layout-kinds';
import type { PictureInput, RenderTake } from './take-sources';
import { type PiecedFrames, takeTimeOfFrame } from './timeline';

/** A stretch of a take as it is seen: which recorded pictures, how they are laid out, and on which frames (`commands/picture-graph.ts`). */
export type Shot = {
  /** Segments that are seen in this time, the first one first. */
  screens: readonly PictureInput[];
  cameras: readonly PictureInput[];
  layout: Layout;
  rate: FrameRate;
  /** Take time of its first frame. */
  originUs: number;
  /** Take time that passes for each time of the video; 0 holds the first picture. */
  speed: number;
  frames: number;
  /** Where the screen's picture stands and moves; times are the video's, since the first frame. */
  views: readonly View[];
  /** What nobody gets to see of the screen; times as above. */
  covers: readonly Cover[];
  looks: Looks;
};

/** The last picture of what came before, and how it goes over into a shot. */
export type Opening = { kind: 'dissolve' | 'dip'; frames: number; from: Shot };

/**
 * A piece as it is seen.
 * @param layout other than the step's own: a track alone, of which nothing is zoomed and whose looks are as recorded. Covers stay covers
 */
export function shotOf(
  pieced: PiecedFrames,
  takes: readonly RenderTake[],
  rate: FrameRate,
  layout: Layout | null,
): Shot {
  const { step, piece, originUs, speed, frames } = pieced;
  const take = takes.find(({ id }) => id === piece.take);
  const shown = layout ?? step.layout;
  const [fromUs, toUs] =
    piece.heldUs === undefined ? [piece.inUs, piece.outUs] : [piece.heldUs, piece.heldUs + 1];
  const during = <T extends PictureInput>(inputs: readonly T[] = []) =>
    inputs.filter(({ startUs, endUs }) => startUs < toUs && endUs > fromUs);
  // For a camera alone there is no screen to show while it is away.
  const onlyCamera = layout?.kind === 'camera';
  const screens = onlyCamera ? [] : during(take?.screens);
  const firstScreen = take?.screens[0];
  return {
    screens: screens.length > 0 || onlyCamera || !firstScreen ? screens : [firstScreen],
    cameras: showsCamera(shown) ? during(take?.cameras) : [],
    layout: shown,
    ...{ rate, originUs, speed, frames },
    views: layout ? [] : viewsOf(pieced),
    covers: coversOf(pieced, rate),
    looks: layout ? UNCHANGED_LOOKS : step.looks,
  };
}

/** Video time since a piece's first frame at which a time of its step is shown. */
const intoPiece = ({ stepUs, stepSpeed }: PiecedFrames, us: number): number =>
  Math.round((us - stepUs) / stepSpeed);

/** Views of a step as a piece of it shows them. */
const viewsOf = (pieced: PiecedFrames): View[] =>
  views(pieced.step.zooms, stepTimeUs(pieced.step)).map(({ atUs, area }) => ({
    atUs: intoPiece(pieced, atUs),
    area,
  }));

/** Covers of a step as a piece of it shows them; those of other pieces are left out. */
function coversOf(pieced: PiecedFrames, rate: FrameRate): Cover[] {
  const lengthUs = (pieced.frames * rate.den * 1e6) / rate.num;
  const own = pieced.step.covers.map((cover) => ({
    ...cover,
    fromUs: intoPiece(pieced, cover.fromUs),
    toUs: intoPiece(pieced, cover.toUs),
  }));
  return spansBetween(own, 0, Math.ceil(lengthUs));
}

/** A shot of the picture that a piece shows last, for one frame. */
export function lastPicture(pieced: PiecedFrames, shot: Shot): Shot {
  const { rate, frames } = shot;
  const atUs = Math.round(((frames - 1) * rate.den * 1e6) / rate.num);
  return {
    ...shot,
    ...{ originUs: takeTimeOfFrame(pieced, frames - 1, rate), frames: 1 },
    views: shot.views.map((view) => ({ ...view, atUs: view.atUs - atUs })),
    covers: spansBetween(shot.covers, atUs, atUs + 1),
  };
}

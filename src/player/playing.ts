import { cutLengthUs, type Here as Place, type Placed } from '@/core/cut/cut';
import type { SoundKind } from '@/core/recording/take';
import { mayDraw } from './draw-pace';
import type { FromPlayer } from './messages';
import type { Advance } from './picture-lane';
import { lanesIn, type Spot } from './reels';
import { NOTHING_DUE, type Position, type Target } from './seeking';
import { openSounding } from './sounding';
import type { DecodeSound } from './sounds-ahead';
import type { Stage } from './stage';

/** The sound's clock: place `us` is heard at page time `pageMs`, and goes on at this speed. */
export type Anchor = { us: number; pageMs: number; speed: number };

export type Playing = {
  readonly play: (from: Target) => void;
  readonly pause: () => void;
  /** The clock is told again every 200 ms. */
  readonly setClock: (anchor: Anchor) => void;
  /** The one sound that is heard; null for all of them. */
  readonly setSolo: (kind: SoundKind | null) => void;
  readonly isPlaying: () => boolean;
  readonly close: () => void;
};

/** @param failed words an error for the page */
export function openPlaying(
  stage: Stage,
  position: Position,
  pageOriginMs: number,
  decode: DecodeSound,
  tell: (message: FromPlayer, transfer?: Transferable[]) => void,
  failed: (what: string) => (error: unknown) => void,
): Playing {
  const pageNowMs = () => performance.timeOrigin - pageOriginMs + performance.now();
  let anchor: Anchor | null = null;
  /** The piece that is being played. */
  let playing: Placed | null = null;
  /** Place of the picture that was drawn last while it plays. */
  let drawnUs = Number.NEGATIVE_INFINITY;
  /** The next picture is on its way to the canvas. */
  let isDrawing = false;

  /** The playback position, in whole µs. It does not move before the clock first reports. */
  const nowUs = () =>
    anchor ? Math.round(anchor.us + (pageNowMs() - anchor.pageMs) * 1000 * anchor.speed) : position.us;
  const sounding = openSounding(
    stage,
    decode,
    { nowUs, speed: () => anchor?.speed ?? 1 },
    tell,
    failed('The sound could not be decoded'),
  );
  const halt = () => {
    for (const reel of stage.reels()) for (const { lane } of reel.lanes) lane.halt();
  };

  /** Lets the pictures of a piece run from a place on, or shows the one that it holds. */
  const runPiece = ({ reel, place }: Spot): void => {
    halt();
    playing = place;
    drawnUs = Number.NEGATIVE_INFINITY;
    for (const { lane } of lanesIn(reel, place.step.layout)) {
      if (place.piece.heldUs === undefined) lane.run(place.takeUs);
      else
        void lane
          .show(place.takeUs)
          .then(() => playing === place && stage.draw(position.us))
          .catch(failed('The picture that is held could not be decoded'));
    }
  };

  /** Draws the next picture while it plays. */
  const drawNow = async (advance: Advance): Promise<void> => {
    isDrawing = true;
    try {
      const { us } = position;
      drawnUs = us;
      await stage.draw(us);
      tell({ type: 'shown', us, exact: true, asked: position.asked, ...advance });
    } finally {
      isDrawing = false;
    }
  };

  const frame = (): void => {
    frames = null;
    if (!anchor) return;
    follow();
    position.us = Math.max(position.us, Math.min(nowUs(), cutLengthUs(stage.cut())));
    const spot = stage.spotAt(position.us);
    if (!spot) return;
    const { reel, place } = spot;
    if (playing && place.startUs !== playing.startUs) {
      stage.keepForOpening(place);
      runPiece(spot);
    }
    if (isDrawing || !mayDraw(drawnUs, position.us, reel.rate)) return;
    const moved = reel.lanes.map(({ lane }) => counted(lane.advance(place.takeUs), place.step.speed));
    const sum = (key: 'due' | 'missed') => moved.reduce((all, each) => all + each[key], 0);
    if (sum('due') === 0 && !stage.isMoving(place, position.us)) tellHeld(place);
    else
      void drawNow({ due: sum('due'), missed: sum('missed') }).catch(
        failed('The picture could not be drawn'),
      );
  };
  let frames: number | null = null;
  /** Only while it plays: a still picture needs no frames. */
  const follow = () => {
    frames ??= requestAnimationFrame(frame);
  };

  /** While a picture is held nothing is due, and the place goes on. */
  const tellHeld = ({ piece }: Place): void => {
    if (piece.heldUs !== undefined)
      tell({ type: 'shown', us: position.us, exact: true, asked: position.asked, ...NOTHING_DUE });
  };

  const silence = () => {
    anchor = null;
    playing = null;
    sounding.end();
  };

  return {
    play: (from) => {
      Object.assign(position, from);
      const spot = stage.spotAt(from.us);
      if (!spot) return;
      runPiece(spot);
      sounding.from(from);
    },
    pause: () => {
      if (anchor) position.us = Math.max(0, Math.min(nowUs(), cutLengthUs(stage.cut())));
      silence();
      halt();
    },
    setClock: (next) => {
      anchor = next;
      follow();
      sounding.clockTold();
    },
    setSolo: sounding.setSolo,
    isPlaying: () => anchor !== null,
    close: () => {
      if (frames !== null) cancelAnimationFrame(frames);
      silence();
    },
  };
}

/** Faster than it was recorded, one picture in some is all that can be seen. */
const counted = (advance: Advance, speed: number): Advance =>
  speed <= 1 || advance.due === 0 ? advance : { due: 1, missed: advance.missed < advance.due ? 0 : 1 };

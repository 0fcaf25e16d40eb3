import type { TakeId } from '@/core/base/ids';
import type { Size } from '@/core/base/sizes';
import { evenRect } from '@/core/cut/area';
import { at, type Cut, type Here as Place } from '@/core/cut/cut';
import { openedAt, openingUs } from '@/core/cut/opening';
import { readingTimeUs } from '@/core/image/reading-time';
import { drawReel, seenAlike, seenOf } from './draw';
import { drawOpening, type Standing, standing } from './draw-opening';
import { lumaOf } from './luma-of';
import type { PlayerTake } from './messages';
import { lanesSeen, type Reel, type SoundTrack, type Spot, screenAt } from './reels';

/** The opened takes of a cut and the canvas they are laid out on. */
export type Stage = {
  readonly cut: () => Cut;
  /** Opens every take. @throws when one cannot be read */
  readonly open: (takes: PlayerTake[]) => Promise<void>;
  readonly isOpen: () => boolean;
  readonly reels: () => readonly Reel[];
  readonly soundsOf: (take: TakeId) => SoundTrack[];
  readonly setCut: (cut: Cut) => void;
  readonly resize: (size: Size) => void;
  /** Of the picture: as in the finished video that of the first screen of the take that it begins with. */
  readonly size: () => Size;
  /** Null while no take is open. */
  readonly spotAt: (us: number) => Spot | null;
  /** Draws the picture of a place. @returns whether it was drawn; a later call ends an earlier one */
  readonly draw: (us: number) => Promise<boolean>;
  /** Shows the picture that stands while a step comes in, unless it is known, and keeps it. */
  readonly prepareOpening: (spot: Spot, us: number, isWanted: () => boolean) => Promise<void>;
  /** Keeps what is on the canvas as the picture over which a step comes in. */
  readonly keepForOpening: (place: Place) => void;
  /** Whether a place looks other than what was drawn last even with the same pictures: a transition, a zoom, a cover. */
  readonly isMoving: (place: Place, us: number) => boolean;
  /** How long the text of the screen takes to be read, as far as it is zoomed to, µs; null where nothing is shown. */
  readonly readingUs: (us: number) => number | null;
  readonly close: () => void;
};

/** @param openReel opens the files of a take */
export function openStage(
  canvas: OffscreenCanvas,
  first: Cut,
  openReel: (take: PlayerTake) => Promise<Reel>,
): Stage {
  const pen = canvas.getContext('2d', { alpha: false });
  let cut = first;
  let reels: Reel[] = [];
  let isClosed = false;
  let draws = 0;
  /** The picture over which a step comes in. */
  let before: Standing | null = null;
  /** How the picture was zoomed and covered when it was drawn last. */
  let drawn: ReturnType<typeof seenOf> | null = null;

  const spotAt = (us: number): Spot | null => {
    const place = at(cut, us);
    const reel = reels.find(({ take }) => take === place.piece.take);
    return reel ? { reel, place } : null;
  };
  const size = (): Size => {
    const begins = cut.steps[0]?.pieces[0]?.take;
    const reel = reels.find(({ take }) => take === begins) ?? reels[0];
    return reel?.lanes[0]?.size ?? { width: 1280, height: 720 };
  };
  const draw = async (us: number): Promise<boolean> => {
    const spot = spotAt(us);
    if (!pen || !spot) return false;
    const mine = ++draws;
    if (!(await drawReel(pen, size(), spot, () => mine === draws))) return false;
    drawn = seenOf(spot.place.step, spot.place.hereUs);
    const opened = openedAt(spot.place, us);
    if (opened && before?.beforeUs === opened.beforeUs) drawOpening(pen, opened, before);
    return true;
  };

  return {
    cut: () => cut,
    open: async (takes) => {
      const opening = takes.map(openReel);
      // One that cannot be read leaves the others open, and a player that was closed meanwhile all of them.
      const letGo = () =>
        opening.forEach((each) => void each.then((reel) => reel.close()).catch(() => undefined));
      try {
        const opened = await Promise.all(opening);
        if (isClosed) letGo();
        else reels = opened;
      } catch (error) {
        letGo();
        throw error;
      }
    },
    isOpen: () => reels.length > 0,
    reels: () => reels,
    soundsOf: (id) => reels.find(({ take }) => take === id)?.sounds ?? [],
    setCut: (next) => {
      cut = next;
      before = null;
    },
    resize: ({ width, height }) => {
      canvas.width = width;
      canvas.height = height;
      // It was as large as the canvas before.
      before = null;
    },
    size,
    spotAt,
    draw,
    prepareOpening: async ({ place }, us, isWanted) => {
      const opened = openedAt(place, us);
      if (!opened || before?.beforeUs === opened.beforeUs) return;
      const last = spotAt(opened.beforeUs);
      if (!last) return;
      await Promise.all(lanesSeen(last).map(({ lane }) => lane.show(last.place.takeUs)));
      if (!isWanted() || !pen) return;
      await draw(opened.beforeUs);
      if (isWanted()) before = standing(pen, opened.beforeUs);
    },
    keepForOpening: (place) => {
      if (pen && openingUs(place) > 0) before = standing(pen, place.startUs - 1);
    },
    isMoving: (place, us) =>
      openedAt(place, us) !== null || !drawn || !seenAlike(drawn, seenOf(place.step, place.hereUs)),
    readingUs: (us) => {
      const spot = spotAt(us);
      const screen = spot && screenAt(spot.reel, spot.place.takeUs);
      const sample = screen?.lane.shown();
      if (!spot || !screen || !sample) return null;
      const { area } = seenOf(spot.place.step, spot.place.hereUs);
      return readingTimeUs(lumaOf(sample, evenRect(area, screen.size)));
    },
    close: () => {
      isClosed = true;
      // What is being drawn is not wanted any more.
      draws++;
      for (const reel of reels) reel.close();
      reels = [];
    },
  };
}

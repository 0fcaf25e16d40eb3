import type { Size } from '@/core/base/sizes';
import { ownPicture } from './own-picture';
import { openRecentRate } from './recent-rate';

/** A picture source being read: it holds its newest picture for whoever wants to look at it or encode it. */
export type PictureSource = {
  /** Clone it to keep it; the source closes it when the next one comes. */
  readonly newest: () => VideoFrame | null;
  /** Grows with every picture. */
  readonly serial: () => number;
  readonly arrivedFps: () => number;
  /** Lets go of the picture it holds; what comes after is closed. */
  readonly release: () => void;
};

type Options = {
  readable: ReadableStream<VideoFrame>;
  /** A real device gives it, which wants its pictures back at once. */
  captured: boolean;
  nowUs: () => number;
  /** A picture came. @returns whether the source shall hold it, in the place of the one before */
  onArrival: (picture: VideoFrame, readAtUs: number) => boolean;
  /** It is held now. */
  onHeld: () => void;
  onEnded: () => void;
  onProblem: (error: unknown) => void;
};

export const sizeOf = (picture: VideoFrame): Size => ({
  width: picture.visibleRect?.width ?? picture.codedWidth,
  height: picture.visibleRect?.height ?? picture.codedHeight,
});

/** Reads a source all the time, so that a picture is at hand when a take begins. Pictures are read here and nowhere else. */
export function openPictureSource(options: Options): PictureSource {
  const reader = options.readable.getReader();
  const arrived = openRecentRate();
  let newest: VideoFrame | null = null;
  let serial = 0;
  let released = false;

  const take = (picture: VideoFrame, readAtUs: number) => {
    arrived.count(readAtUs);
    if (!options.onArrival(picture, readAtUs)) return picture.close();
    newest?.close();
    newest = picture;
    serial++;
    options.onHeld();
  };

  const read = async () => {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      const readAtUs = options.nowUs();
      const picture = released || !options.captured ? value : await ownPicture(value);
      // The page ends the stream of a track that was let go. Cancelled from here, it would never close the picture that it holds.
      if (released) picture.close();
      else take(picture, readAtUs);
    }
    // Only the source's own end is news.
    if (!released) options.onEnded();
  };
  read().catch(options.onProblem);

  return {
    newest: () => newest,
    serial: () => serial,
    arrivedFps: () => arrived.perSecond(options.nowUs()),
    release: () => {
      released = true;
      newest?.close();
      newest = null;
    },
  };
}

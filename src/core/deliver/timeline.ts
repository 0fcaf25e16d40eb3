import { type FrameRate, frameTimeUs, gridPhaseUs } from '../base/rational';
import { type Cut, type Piece, placedPieces, type Step } from '../cut/cut';

/** A piece on the constant frame grid of a finished video. */
export type PiecedFrames = {
  step: Step;
  piece: Piece;
  /** Number of its first frame in the video. */
  firstFrame: number;
  frames: number;
  /** Take time that is seen and heard at its first frame. */
  originUs: number;
  /** Goes on exactly where the piece before it ended, in picture and sound. */
  continues: boolean;
};

/**
 * Lays the pieces of a cut on the frames of an even rate. Borders go to the nearest frame, counted from the start of the video,
 * so that rounding never accumulates. Each piece is moved by less than half a frame, picture and sound together, so that its
 * recorded pictures fall on whole frames.
 * @param timesUs take times of the pictures recorded around a time of a take
 * @returns pieces that are shorter than half a frame are left out
 */
export function frameTimeline(
  cut: Cut,
  rate: FrameRate,
  timesUs: (piece: Piece) => readonly number[],
): PiecedFrames[] {
  const frameOf = (us: number) => Math.round((us * rate.num) / (rate.den * 1e6));
  const all: PiecedFrames[] = [];
  for (const { step, piece, startUs, endUs } of placedPieces(cut)) {
    const firstFrame = frameOf(startUs);
    const frames = frameOf(endUs) - firstFrame;
    if (frames < 1) continue;
    const before = all.at(-1);
    const continues = before?.piece.take === piece.take && before.piece.outUs === piece.inUs;
    const meant = piece.inUs + frameTimeUs(firstFrame, rate) - startUs;
    const originUs =
      before && continues
        ? before.originUs + frameTimeUs(firstFrame, rate) - frameTimeUs(before.firstFrame, rate)
        : meant + phaseUs(timesUs(piece), meant, rate);
    all.push({ step, piece, firstFrame, frames, originUs: Math.max(0, originUs), continues });
  }
  return all;
}

const phaseUs = (timesUs: readonly number[], originUs: number, rate: FrameRate): number =>
  gridPhaseUs(
    timesUs.map((us) => us - originUs),
    rate,
  );

/** Length of a video of so many frames. */
export const framesUs = (pieces: readonly PiecedFrames[], rate: FrameRate): number => {
  const last = pieces.at(-1);
  return last ? frameTimeUs(last.firstFrame + last.frames, rate) : 0;
};

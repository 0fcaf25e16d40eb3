import { type FrameRate, frameTimeUs, gridPhaseUs } from '../base/rational';
import { type Cut, placedPieces, type Step } from '../cut/cut';
import { type Piece, stepSpeed, takeSpeed } from '../cut/piece';

/** A piece on the constant frame grid of a finished video. */
export type PiecedFrames = {
  step: Step;
  piece: Piece;
  /** Number of its first frame in the video. */
  firstFrame: number;
  frames: number;
  /** Take time that is seen and heard at its first frame. */
  originUs: number;
  /** Take time that passes for each time of the video; 0 while a picture is held. */
  speed: number;
  /** Time of its step at its first frame, and how much of it passes for each time of the video. */
  stepUs: number;
  stepSpeed: number;
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
  for (const { step, piece, startUs, endUs, stepUs } of placedPieces(cut)) {
    const firstFrame = frameOf(startUs);
    const frames = frameOf(endUs) - firstFrame;
    if (frames < 1) continue;
    const speed = takeSpeed(piece, step.speed);
    const ofStep = stepSpeed(piece, step.speed);
    /** The border lies beside the place where the piece begins by so much of the video. */
    const besideUs = frameTimeUs(firstFrame, rate) - startUs;
    const before = all.at(-1);
    const continues = before !== undefined && goesOn(before, piece, speed);
    all.push({
      ...{ step, piece, firstFrame, frames, speed, stepSpeed: ofStep, continues },
      stepUs: Math.max(0, Math.round(stepUs + besideUs * ofStep)),
      originUs: continues
        ? before.originUs +
          Math.round((frameTimeUs(firstFrame, rate) - frameTimeUs(before.firstFrame, rate)) * speed)
        : Math.max(0, originOf(piece, besideUs, speed, rate, timesUs)),
    });
  }
  return all;
}

const goesOn = (before: PiecedFrames, piece: Piece, speed: number): boolean =>
  before.piece.take === piece.take &&
  before.piece.outUs === piece.inUs &&
  before.speed === speed &&
  speed > 0;

function originOf(
  piece: Piece,
  besideUs: number,
  speed: number,
  rate: FrameRate,
  timesUs: (piece: Piece) => readonly number[],
): number {
  if (piece.heldUs !== undefined) return piece.heldUs;
  const meantUs = piece.inUs + Math.round(besideUs * speed);
  // At another speed the recorded pictures lie on no even grid of the video.
  return speed === 1 ? meantUs + phaseUs(timesUs(piece), meantUs, rate) : meantUs;
}

const phaseUs = (timesUs: readonly number[], originUs: number, rate: FrameRate): number =>
  gridPhaseUs(
    timesUs.map((us) => us - originUs),
    rate,
  );

/** Take time of one of a piece's frames. @param frame of the piece's own, from 0 on */
export const takeTimeOfFrame = (
  { originUs, speed }: Pick<PiecedFrames, 'originUs' | 'speed'>,
  frame: number,
  rate: FrameRate,
): number => originUs + Math.round(frameTimeUs(frame, rate) * speed);

/** Length of a video of so many frames. */
export const framesUs = (pieces: readonly PiecedFrames[], rate: FrameRate): number => {
  const last = pieces.at(-1);
  return last ? frameTimeUs(last.firstFrame + last.frames, rate) : 0;
};

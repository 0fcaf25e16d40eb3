import { sameValue } from '../base/same-value';
import { type Cover, type Span, spansBetween, spansJoined, spansLater, type Zoom } from './area';
import { type Step, stepTimeUs } from './cut';
import { eachSound, envelopeBetween, envelopeDb, envelopeJoined } from './envelope';
import { joinedPieces, type Piece, pieceLengthUs, piecesBetween } from './piece';

/** Steps taken apart and put together along their own time; zooms and covers stay with the pictures that they belong to. */

/**
 * A step from one of its times to another, before any speed.
 * @returns null where nothing of it is left. It begins as the step did only where it has the step's beginning
 */
export function partOfStep(step: Step, fromUs: number, toUs: number): Step | null {
  const pieces = joinedPieces(piecesBetween(step.pieces, fromUs, toUs));
  if (pieces.length === 0) return null;
  return {
    ...step,
    pieces,
    zooms: spansBetween(step.zooms, fromUs, toUs),
    covers: spansBetween(step.covers, fromUs, toUs),
    envelopes: eachSound(step.envelopes, (points) =>
      envelopeBetween(points, Math.max(0, fromUs), Math.min(toUs, stepTimeUs(step))),
    ),
    entry: fromUs <= 0 ? step.entry : null,
  };
}

const isSameZoom = (a: Zoom, b: Zoom) => sameValue([a.area, a.easeUs], [b.area, b.easeUs]);
const isSameCover = (a: Cover, b: Cover) => sameValue([a.area, a.kind], [b.area, b.kind]);

/** What another step shows, at the end of this one; everything else is this one's. */
export function appended(step: Step, more: Step): Step {
  const atUs = stepTimeUs(step);
  return {
    ...step,
    pieces: joinedPieces([...step.pieces, ...more.pieces]),
    zooms: spansJoined([...step.zooms, ...spansLater(more.zooms, atUs)], isSameZoom),
    covers: spansJoined([...step.covers, ...spansLater(more.covers, atUs)], isSameCover),
    envelopes: eachSound(step.envelopes, (points, sound) =>
      envelopeJoined(points, atUs, more.envelopes[sound], stepTimeUs(more)),
    ),
  };
}

/** A step without what lies between two of its times. @returns null when that was all */
export function withoutPart(step: Step, fromUs: number, toUs: number): Step | null {
  const [before, after] = [partOfStep(step, 0, fromUs), partOfStep(step, toUs, stepTimeUs(step))];
  if (before && after) return appended(before, after);
  // What is left begins as the step did.
  return before ?? (after && { ...after, entry: step.entry });
}

/**
 * A step with another piece in it at one of its times. What is zoomed and covered at this time is so in the piece too; at the very end,
 * what was so until then.
 */
export function withPiece(step: Step, atUs: number, piece: Piece): Step {
  const lengthUs = pieceLengthUs(piece);
  const seenUs = Math.min(atUs, stepTimeUs(step) - 1);
  const wider = <T extends Span>(spans: readonly T[]): T[] =>
    spans.map((span) => {
      if (span.toUs <= seenUs) return span;
      const fromUs = span.fromUs <= seenUs ? span.fromUs : span.fromUs + lengthUs;
      return { ...span, fromUs, toUs: span.toUs + lengthUs };
    });
  return {
    ...step,
    pieces: joinedPieces([
      ...piecesBetween(step.pieces, 0, atUs),
      piece,
      ...piecesBetween(step.pieces, atUs, stepTimeUs(step)),
    ]),
    zooms: wider(step.zooms),
    covers: wider(step.covers),
    envelopes: eachSound(step.envelopes, (points) => {
      const before = envelopeBetween(points, 0, atUs);
      const after = envelopeBetween(points, atUs, stepTimeUs(step));
      const through = points.length > 0 ? [{ atUs: 0, gainDb: envelopeDb(points, atUs) }] : [];
      const until = envelopeJoined(before, atUs, through, lengthUs);
      return envelopeJoined(until, atUs + lengthUs, after, stepTimeUs(step) - atUs);
    }),
  };
}

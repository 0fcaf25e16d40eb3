import { z } from 'zod';
import { TakeId } from '../base/ids';

export const Us = z.int().min(0).max(Number.MAX_SAFE_INTEGER);

/**
 * A stretch of a take, from `inUs` up to but not including `outUs` on the take's clock; or one picture of it that is held, without sound,
 * for as long as `inUs` and `outUs` are apart.
 */
export const Piece = z
  .object({
    take: TakeId,
    inUs: Us,
    outUs: Us,
    /** Take time of the picture that is held. */
    heldUs: Us.optional(),
  })
  .refine(({ inUs, outUs }) => inUs < outUs, 'a piece must end after it begins');
export type Piece = z.infer<typeof Piece>;

/** Length in the time of its step: before the step's speed. */
export const pieceLengthUs = ({ inUs, outUs }: Pick<Piece, 'inUs' | 'outUs'>): number => outUs - inUs;

/** How fast the take's clock runs while a piece is shown; 0 while a picture is held. */
export const takeSpeed = ({ heldUs }: Piece, speed: number): number => (heldUs === undefined ? speed : 0);

/** How fast the step's time runs while a piece is shown: the length of a held picture does not depend on the speed. */
export const stepSpeed = ({ heldUs }: Piece, speed: number): number => (heldUs === undefined ? speed : 1);

/** Length in the video. @param speed of its step */
export const shownPieceUs = (piece: Piece, speed: number): number =>
  Math.max(1, Math.round(pieceLengthUs(piece) / stepSpeed(piece, speed)));

/** Step time since a piece began. @param intoUs video time since it began */
export const timeIntoPiece = (piece: Piece, intoUs: number, speed: number): number =>
  Math.max(0, Math.min(pieceLengthUs(piece), Math.round(intoUs * stepSpeed(piece, speed))));

/** The take time that a piece shows. @param intoUs video time since the piece began */
export const takeTimeAt = (piece: Piece, intoUs: number, speed: number): number =>
  piece.heldUs ?? Math.max(piece.inUs, Math.min(piece.outUs, piece.inUs + Math.round(intoUs * speed)));

/** The part of pieces that lies between two places, counted from the first piece's start, before any speed. */
export function piecesBetween(pieces: readonly Piece[], fromUs: number, toUs: number): Piece[] {
  let startUs = 0;
  return pieces.flatMap((piece) => {
    const inUs = Math.max(piece.inUs, piece.inUs + fromUs - startUs);
    const outUs = Math.min(piece.outUs, piece.inUs + toUs - startUs);
    startUs += pieceLengthUs(piece);
    return inUs < outUs ? [{ ...piece, inUs, outUs }] : [];
  });
}

/** Neighbours that go on where the other ended are one piece; so are two that hold the same picture. */
export function joinedPieces(pieces: readonly Piece[]): Piece[] {
  const all: Piece[] = [];
  for (const piece of pieces) {
    const before = all.at(-1);
    if (before && before.take === piece.take && before.heldUs === piece.heldUs && goesOn(before, piece))
      all[all.length - 1] = { ...before, outUs: before.outUs + pieceLengthUs(piece) };
    else all.push(piece);
  }
  return all;
}

/** Only the length of a held piece means anything, not where its two ends are. */
const goesOn = (before: Piece, piece: Piece): boolean =>
  piece.heldUs !== undefined || before.outUs === piece.inUs;

import { z } from 'zod';
import { SegmentId } from '../base/ids';
import { SegmentPart } from './take';

/** An upload's name on the server: known to both sides beforehand, so that nobody has to remember addresses. */
export const uploadName = (segment: SegmentId, part: SegmentPart): string => `${segment}.${part}`;

/** @returns null for a name that is none of ours */
export function parseUploadName(name: string): { segment: SegmentId; part: SegmentPart } | null {
  const dot = name.lastIndexOf('.');
  const parsed = z
    .object({ segment: SegmentId, part: SegmentPart })
    .safeParse({ segment: name.slice(0, dot), part: name.slice(dot + 1) });
  return parsed.success ? parsed.data : null;
}

/** Code of the refusal to take in a take whose lesson is not there, or in the bin. */
export const LESSON_GONE = 'lesson-gone';
/** Code of the refusal to accept bytes that are not the browser's: they are sent again from the start. */
export const HASH_DIFFERS = 'hash-differs';

/** Code of the refusal to begin an upload that exists already: its offset is asked for then. */
export const UPLOAD_BEGUN = 'upload-begun';

/** Code of the refusal to take a segment in again that is there for good. */
export const ALREADY_CONFIRMED = 'already-confirmed';

/** The largest file that one segment may become: 10 hours at 100 Mb/s. */
export const LARGEST_SEGMENT_BYTES = 450e9;

const LEAST_PIECE_BYTES = 256 * 1024;
/** Larger ones bring nothing more, and a broken one is sent again. */
const MOST_PIECE_BYTES = 32 * 1024 * 1024;
export const FIRST_PIECE_BYTES = 4 * 1024 * 1024;
const PIECE_MS = 2000;

/** Bytes of the next request, so that it takes about two seconds on a line as fast as it just was. */
export const nextPieceBytes = (sentBytes: number, tookMs: number): number =>
  Math.round(
    Math.max(LEAST_PIECE_BYTES, Math.min(MOST_PIECE_BYTES, (sentBytes * PIECE_MS) / Math.max(1, tookMs))),
  );

/** Bytes of the next request after one that was not answered in time; it grows again with the line. */
export const pieceAfterTimeout = (pieceBytes: number): number =>
  Math.max(LEAST_PIECE_BYTES, Math.round(pieceBytes / 4));

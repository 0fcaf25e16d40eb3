import type { FrameRate } from '../base/rational';
import type { Destination } from '../destination/destination';
import type { Opening, Shot } from './shot';

/** A stretch that is composed and encoded. Its files are called by `name` (`commands/encode-part.ts`). */
export type EncodedPart = {
  kind: 'encode';
  /** Where it begins in the video. */
  atUs: number;
  name: string;
  frames: number;
  durationUs: number;
  rate: FrameRate;
  shot: Shot;
  /** How it goes over from what came before it; null: at once. */
  opening: Opening | null;
  /** How it is encoded: for a destination, or to stand beside copied pictures, with a keyframe at least every so many frames. */
  encoder: { destination: Destination; crf: number } | { besideCopied: true; keyframeFrames: number };
  /** Composed pictures that are compared with what came out; numbers are the part's own. */
  compared: { every: number; frames: number[] };
};

/** A stretch that is copied packet by packet, on the file's own times. */
export type CopiedPart = { kind: 'copy'; atUs: number; path: string; fromUs: number; toUs: number };

/** A stretch of a finished picture track; they follow one another without a gap. */
export type PicturePart = EncodedPart | CopiedPart;

import { type FrameRate, framesPerSecond } from '../base/rational';
import type { Destination } from '../destination/destination';

/** The codec of the frames. AV1 where it is the first choice of the destination; the live recorder's other codecs are not made here. */
export type MadeCodec = 'h264' | 'av1';

/**
 * Constant quality by aim, where encoding begins. Compact ones keep text clear on all contents that were measured (docs/figures.md,
 * `compact`); where one does not, it is made again, finer (`attempt.ts`).
 */
export const FIRST_CRF: Record<Destination['aim'], Record<MadeCodec, number>> = {
  untouched: { h264: 17, av1: 24 },
  compact: { h264: 27, av1: 50 },
  editing: { h264: 12, av1: 18 },
};
/** The coarsest at which text is clear on most screens: mean 0.995, worst 0.98 (docs/figures.md, `compact`). */
export const CLEAREST_CRF: Record<MadeCodec, number> = { h264: 30, av1: 54 };
/** Beyond these text falls apart. */
export const WORST_CRF: Record<MadeCodec, number> = { h264: 38, av1: 63 };

/** The codecs of a destination that are made here, in its order. */
export const makeableCodecs = ({ video }: Destination): MadeCodec[] => {
  const made = video.codecs.filter((codec): codec is MadeCodec => codec === 'h264' || codec === 'av1');
  return made.length > 0 ? made : ['h264'];
};
export const madeCodec = ({ video }: Destination): MadeCodec => (video.codecs[0] === 'av1' ? 'av1' : 'h264');
export const firstCrf = (destination: Destination): number =>
  FIRST_CRF[destination.aim][madeCodec(destination)];

/** As far apart as a browser's own player seeks within half a second (95th percentile; docs/figures.md, `seek`). */
const SEEKABLE_S: Record<MadeCodec, number> = { h264: 8, av1: 10 };

/** The longest time between two keyframes that are made, s: what people can seek in, or less where the destination asks for it. */
export const keyframeEveryS = (destination: Destination): number =>
  Math.min(destination.video.keyframeEveryS ?? Number.POSITIVE_INFINITY, SEEKABLE_S[madeCodec(destination)]);

/** The same in frames, at least one. */
export const keyframeFrames = (destination: Destination, rate: FrameRate): number =>
  Math.max(1, Math.floor(keyframeEveryS(destination) * framesPerSecond(rate)));

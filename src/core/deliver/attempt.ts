import { bytesText } from '../base/figures';
import { type FrameRate, framesPerSecond } from '../base/rational';
import { even, type Size, sizeText } from '../base/sizes';
import { codecName } from '../codec/codecs';
import type { Destination } from '../destination/destination';
import {
  CLEAREST_CRF,
  FIRST_CRF,
  firstCrf,
  type MadeCodec,
  madeCodec,
  makeableCodecs,
  WORST_CRF,
} from './quality';

/** How an encode is tried. */
export type Attempt = {
  codec: MadeCodec;
  crf: number;
  /** Fewer than the destination would get; null when none are left out. */
  fps: number | null;
  /** Sides of the picture ÷ those that the destination would get. */
  scale: number;
};

/** What came of an attempt: of all files together. */
export type Outcome = Attempt & {
  bytes: number;
  /** Bytes that are not the picture's, and stay whatever is tried. */
  otherBytes: number;
  /** Whether the encoder left the text, and its colour, as clear as it got them, scaled or not; true where nobody looked. */
  clear: boolean;
};

/** What came of a sample. @see sample.ts */
export type SampledOutcome = Outcome & {
  /** All of the video was encoded, not three seconds of it. */
  isWhole: boolean;
};

/** Frame rates that a still screen bears, and sizes at which text is still read, in the order in which they are given up. */
const FEWER_FPS = [15, 12, 10] as const;
const SMALLER = [0.8, 0.667] as const;
/** CRF by which bytes of screen content halve (docs/figures.md, `compact`). */
const HALVING: Record<MadeCodec, number> = { h264: 9, av1: 12 };
/** A step towards clearer pictures. */
const CLEARER: Record<MadeCodec, number> = { h264: 3, av1: 6 };
/**
 * Bytes at a share of the frame rate and of the pixels (docs/figures.md, `compact`): most of a screen stands still whatever the rate, and
 * resampled glyphs no longer repeat.
 */
const FPS_EXPONENT = 0.32;
const PIXEL_EXPONENT = 0.2;
/** AV1's bytes ÷ H.264's at equal clarity. */
const AV1_OVER_H264 = 0.45;
/** A file is aimed this far below its ceiling: no forecast is better. */
const AIM = 0.96;

export const firstAttempt = (destination: Destination): Attempt => ({
  codec: madeCodec(destination),
  crf: firstCrf(destination),
  fps: null,
  scale: 1,
});

/**
 * How encoding begins.
 * @param sampled what a sample of it would come to, where one was made
 * @param rate of the video before frames are left out
 */
export function beginningWith(destination: Destination, rate: FrameRate, sampled: Outcome | null): Attempt {
  if (!sampled) return firstAttempt(destination);
  const { codec, crf, fps, scale } = sampled;
  return nextAttempt(destination, rate, [sampled]) ?? { codec, crf, fps, scale };
}

/** The destination with what an attempt leaves out: whoever plans an encode knows nothing of attempts. */
export function attempted(destination: Destination, attempt: Attempt, size: Size): Destination {
  const { video } = destination;
  const { codec, fps, scale } = attempt;
  const box = video.box ?? size;
  const by = Math.min(1, box.width / size.width, box.height / size.height) * scale;
  return {
    ...destination,
    video: {
      ...video,
      codecs: [codec],
      box: scale === 1 ? video.box : { width: even(size.width * by), height: even(size.height * by) },
      frameRate: fps === null ? video.frameRate : { ...video.frameRate, max: { num: fps, den: 1 } },
    },
  };
}

/** Whether two attempts encode alike. */
export const sameAttempt = (a: Attempt, b: Attempt): boolean => sameRung(a, b) && a.crf === b.crf;

type Rung = Pick<Attempt, 'codec' | 'fps' | 'scale'>;
const sameRung = (a: Rung, b: Rung) => a.codec === b.codec && a.fps === b.fps && a.scale === b.scale;

/** What can be given up, what costs least first: frames of a screen that stands still mostly, then pixels, then players that know no AV1. */
function ladder(destination: Destination, rate: FrameRate): Rung[] {
  const given = framesPerSecond(rate);
  const fewer = FEWER_FPS.filter((fps) => fps < given);
  return makeableCodecs(destination).flatMap((codec): Rung[] => [
    ...[null, ...fewer].map((fps) => ({ codec, fps, scale: 1 })),
    ...SMALLER.map((scale) => ({ codec, fps: fewer.at(-1) ?? null, scale })),
  ]);
}

/** Bytes of the picture that another attempt would take, from what one took. */
export function forecast(from: Outcome, to: Attempt, rate: FrameRate): number {
  const fps = (rung: Rung) => rung.fps ?? framesPerSecond(rate);
  const codecs = from.codec === to.codec ? 1 : to.codec === 'av1' ? AV1_OVER_H264 : 1 / AV1_OVER_H264;
  // CRFs of two codecs are no one scale: both begin where text is clear.
  const finer = from.codec === to.codec ? from.crf - to.crf : CLEAREST_CRF[to.codec] - to.crf;
  const own = from.codec === to.codec ? 0 : from.crf - CLEAREST_CRF[from.codec];
  return (
    (from.bytes - from.otherBytes) *
    codecs *
    2 ** (finer / HALVING[to.codec] + own / HALVING[from.codec]) *
    (fps(to) / fps(from)) ** FPS_EXPONENT *
    (to.scale / from.scale) ** (2 * PIXEL_EXPONENT)
  );
}

/**
 * What to try next, after what was tried already.
 * 1. As long as the text is not clear, finer.
 * 2. Larger than the destination takes: coarser, as far as the text stays clear; then fewer frames, fewer pixels, another codec.
 * 3. Where nothing clear fits, the last of these as coarse as it must be.
 *
 * @param rate of the video before frames are left out
 * @returns null when the last attempt is to be kept
 */
export function nextAttempt(
  destination: Destination,
  rate: FrameRate,
  outcomes: readonly Outcome[],
): Attempt | null {
  const last = outcomes.at(-1);
  if (!last) return firstAttempt(destination);
  const most = destination.maxBytes ?? Number.POSITIVE_INFINITY;
  const room = (most - last.otherBytes) * AIM;
  const fits = last.bytes <= most;
  if (fits && last.clear) return null;
  // What was too large once is too large again: every attempt lies between that and what was not clear.
  const floor = (rung: Rung) =>
    Math.max(
      0,
      ...outcomes.filter((one) => sameRung(one, rung) && one.bytes > most).map(({ crf }) => crf + 1),
    );
  const crf = Math.max(FINEST[last.codec], floor(last), last.crf - CLEARER[last.codec]);
  const finer = { ...rungOf(last), crf };
  if (!last.clear && crf < last.crf && forecast(last, finer, rate) <= room) return finer;
  if (destination.maxBytes === null) return null;
  const rungs = ladder(destination, rate);
  const tried = rungs.findIndex((rung) => sameRung(rung, last));
  for (const rung of rungs.slice(Math.max(0, tried))) {
    const clear = clearCrf(rung.codec, outcomes);
    // Finer was looked at above.
    if (sameRung(rung, last) && !last.clear) continue;
    // No finer than encoding begins, unless even that was not clear.
    const begin = Math.min(clear, firstCrfOf(rung.codec, destination));
    const crf = Math.max(fitting(last, rung, room, rate), floor(rung), begin);
    if (crf <= clear) return { ...rung, crf };
  }
  // It fits, though it is not clear; nothing clear does.
  if (fits) return null;
  const end = rungs.at(-1);
  if (!end) return null;
  const coarsest = Math.min(WORST_CRF[end.codec], Math.max(fitting(last, end, room, rate), floor(end)));
  return coarsest < floor(end) ? null : { ...end, crf: coarsest };
}

const firstCrfOf = (codec: MadeCodec, { aim }: Destination): number => FIRST_CRF[aim][codec];

/** Nothing is gained by encoding more finely. */
const FINEST: Record<MadeCodec, number> = { h264: 17, av1: 24 };
const rungOf = ({ codec, fps, scale }: Attempt): Rung => ({ codec, fps, scale });

/** The coarsest CRF of a codec at which text is taken to be clear: below the finest at which it was not. */
const clearCrf = (codec: MadeCodec, outcomes: readonly Outcome[]): number =>
  Math.min(
    CLEAREST_CRF[codec],
    ...outcomes.filter((one) => one.codec === codec && !one.clear).map(({ crf }) => crf - 1),
  );

/** The finest CRF at which a rung is forecast to fit. */
function fitting(from: Outcome, rung: Rung, room: number, rate: FrameRate): number {
  const at = { ...rung, crf: CLEAREST_CRF[rung.codec] };
  const over = Math.log2(forecast(from, at, rate) / Math.max(1, room));
  return Math.ceil(at.crf + HALVING[rung.codec] * over);
}

/** What is given up so that a ceiling is met, in a sentence for people; null when nothing is. */
export function ceilingText(
  destination: Destination,
  attempt: Attempt,
  sampled: Outcome,
  size: Size,
): string | null {
  const { maxBytes } = destination;
  if (maxBytes === null || sampled.bytes <= maxBytes) return null;
  const room = bytesText(maxBytes);
  if (attempt.crf > clearCrf(attempt.codec, [sampled]))
    return `Nothing readable fits in ${room}: shorten the video, or choose a destination that takes more.`;
  const given: string[] = [];
  if (attempt.fps !== null) given.push(`${attempt.fps} fps`);
  const { box } = attempted(destination, attempt, size).video;
  if (attempt.scale < 1 && box) given.push(sizeText(box));
  if (attempt.codec !== madeCodec(destination)) given.push(codecName(attempt.codec));
  if (given.length === 0) return `CRF ${attempt.crf} keeps the text clear within ${room}.`;
  return `The text stays clear within ${room} at ${new Intl.ListFormat('en').format(given)}.`;
}

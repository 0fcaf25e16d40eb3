import type { FrameRate } from '../base/rational';
import { type Cut, cutLengthUs, shownShare } from '../cut/cut';
import type { Destination } from '../destination/destination';
import { type Attempt, forecast, type SampledOutcome, sameAttempt } from './attempt';
import type { RenderPlan } from './plan';
import { madeCodec } from './quality';
import type { RenderTake } from './take-sources';

/** Bytes that a parcel will have: most likely, and the range of what was seen so far. */
export type Expected = { bytes: number; from: number; to: number; how: string };

/**
 * What an encode makes of a byte of the live recorder's H.264: middle, and the range seen on the scenes of the practice desk and the
 * test card (docs/figures.md, `compact`). Fast encodes for editors are larger than what was recorded.
 */
const RATIOS: Record<
  Destination['aim'],
  Record<'h264' | 'av1', [low: number, middle: number, high: number]>
> = {
  untouched: { h264: [0.4, 0.8, 1.6], av1: [0.2, 0.4, 0.9] },
  compact: { h264: [0.1, 0.32, 1.0], av1: [0.03, 0.12, 0.5] },
  editing: { h264: [1, 2.5, 6], av1: [0.5, 1, 2] },
};

/** Real sizes of sampled videos lay within this of what was said, either way (docs/figures.md, `compact`). */
const SAMPLED_SLACK = 1.26;
/** One that was encoded whole, just as it is going to be, differs by what its container takes: by 0.6 % where it was measured. */
const WHOLE_SLACK = 1.1;

/** The size to expect of an attempt, where three seconds of the video were encoded, or all of a short one. */
export function expectedBySample(
  sampled: SampledOutcome,
  attempt: Attempt,
  rate: FrameRate,
  maxBytes: number | null,
): Expected {
  const bytes = forecast(sampled, attempt, rate) + sampled.otherBytes;
  const cap = maxBytes ?? Number.POSITIVE_INFINITY;
  const isMeasured = sampled.isWhole && sameAttempt(sampled, attempt);
  const slack = isMeasured ? WHOLE_SLACK : SAMPLED_SLACK;
  return {
    bytes: Math.round(Math.min(cap, bytes)),
    from: Math.round(Math.min(cap, bytes) / slack),
    to: Math.round(Math.min(cap, bytes * slack)),
    how: isMeasured
      ? 'measured by encoding all of it once'
      : `extrapolated from ${sampled.isWhole ? `all of it, encoded once at CRF ${sampled.crf}` : 'three encoded seconds'}`,
  };
}

/**
 * The size to expect before anything is encoded. Copies are known well; an encode is only known from the bytes that were recorded,
 * so its range is wide, and says so.
 * @param bytesOfPictures recorded bytes of the tracks that are seen, a take
 */
export function expectedSize(
  plan: RenderPlan,
  cut: Cut,
  destination: Destination,
  takes: readonly RenderTake[],
  bytesOfPictures: (take: RenderTake) => number,
): Expected {
  const soundBytes = plan.files.reduce((sum, { sound }) => {
    if (!sound) return sum;
    return sum + (plan.durationUs / 1e6) * sound.encoding.kbps * 125;
  }, 0);
  if (plan.way.way !== 'encode') {
    const { source, take, way } = plan.way;
    if (plan.asItIs) return { bytes: source.bytes, from: source.bytes, to: source.bytes, how: 'known' };
    const copied = way === 'smart' ? plan.way.copied : 1;
    const ofVideo = (source.bytes * cutLengthUs(cut)) / Math.max(1, take.durationUs);
    const kept = ofVideo * copied + soundBytes;
    // What is composed stands beside what was recorded in no lower quality.
    const composed = ofVideo * (1 - copied);
    const [low, middle, high] = RATIOS.editing.h264;
    const slack = way === 'whole' ? 0.05 : 0.3;
    return {
      bytes: Math.round(kept + composed * middle),
      from: Math.round(kept * (1 - slack) + composed * low),
      to: Math.round(kept * (1 + slack) + composed * high),
      how:
        copied < 1
          ? 'estimated from the recorded bytes; what is re-encoded may take more or less'
          : 'from the recorded bytes of the kept parts',
    };
  }
  const recorded = takes.reduce((sum, take) => sum + bytesOfPictures(take) * shownShare(cut, take), 0);
  const picture = plan.files[0]?.picture;
  const scale = picture
    ? ((picture.shape.scaled.width * picture.shape.scaled.height) /
        (picture.size.width * picture.size.height)) **
      0.8
    : 1;
  const [low, middle, high] = RATIOS[destination.aim][madeCodec(destination)];
  const cap = destination.maxBytes ?? Number.POSITIVE_INFINITY;
  const of = (ratio: number) => Math.round(Math.min(cap, recorded * ratio * scale + soundBytes));
  return {
    bytes: of(middle),
    from: of(low),
    to: of(high),
    how: 'estimated from the recorded bytes; it depends on how much moves',
  };
}

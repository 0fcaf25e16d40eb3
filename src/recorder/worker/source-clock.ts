import { earliestArrivalOffsetUs } from '@/core/recording/clock';
import type { OffsetHow } from '@/core/recording/take';

/** Brings a source's timestamps to the page's monotonic clock. */
export type SourceClock = {
  /** Monotonic time of a sample. @param lengthUs how long the sample lasts: sound arrives when it is over */
  readonly toMonotonic: (timestampUs: number, arrivedUs: number, lengthUs?: number) => number;
  /** A better offset than was measured here. */
  readonly set: (offsetUs: number, how: OffsetHow) => void;
  readonly offset: () => { offsetUs: number; how: OffsetHow };
  /** What the earliest arrivals say, and of which timestamps; empty for clocks that are known. */
  readonly seen: () => { timestampsUs: number[]; earliestOffsetUs: number };
};

const nothingSeen = () => ({ timestampsUs: [], earliestOffsetUs: 0 });

/** For sources that stamp in the page's own clock. */
export function declaredClock(): SourceClock {
  return {
    toMonotonic: (timestampUs) => timestampUs,
    set: () => undefined,
    offset: () => ({ offsetUs: 0, how: 'declared' }),
    seen: nothingSeen,
  };
}

/** The offset keeps improving while a source is only watched; samples of this many seconds are enough. */
const LEARNING_SAMPLES = 300;

/** For pictures: one unknown offset, measured from the earliest arrivals until the page finds an exact one. */
export function pictureClock(): SourceClock {
  const seen: { arrivedUs: number; timestampUs: number }[] = [];
  let exact: number | null = null;
  let measured = 0;
  return {
    toMonotonic: (timestampUs, arrivedUs) => {
      if (exact === null && seen.length < LEARNING_SAMPLES) {
        seen.push({ arrivedUs, timestampUs });
        measured = earliestArrivalOffsetUs(seen);
      }
      return timestampUs + (exact ?? measured);
    },
    set: (offsetUs) => {
      exact = offsetUs;
    },
    offset: () => ({
      offsetUs: Math.round(exact ?? measured),
      how: exact === null ? 'earliest-arrival' : 'paired',
    }),
    seen: () => ({ timestampsUs: seen.map(({ timestampUs }) => timestampUs), earliestOffsetUs: measured }),
  };
}

/** Longer than any sound takes from the device to here. */
const LONGEST_DELAY_US = 2_000_000;

/**
 * For sound: it is stamped in the clock of the document or of the worker that reads it, and may change from the first to
 * the second within the first second after its stream was handed over. Both origins are known, so each chunk is tried with
 * both; the right one lies shortly before its arrival.
 * @param workerOriginUs the worker's time origin in the page's clock
 */
export function soundClock(workerOriginUs: number): SourceClock {
  let last = { offsetUs: 0, how: 'earliest-arrival' as OffsetHow };
  let least = Number.POSITIVE_INFINITY;
  return {
    toMonotonic: (timestampUs, arrivedUs, lengthUs = 0) => {
      const delays = [workerOriginUs, 0].map((offsetUs) => ({
        offsetUs,
        delayUs: arrivedUs - (timestampUs + offsetUs) - lengthUs,
      }));
      const plausible = delays
        .filter(({ delayUs }) => delayUs > -5000 && delayUs < LONGEST_DELAY_US)
        .sort((a, b) => a.delayUs - b.delayUs)[0];
      if (plausible) {
        last = { offsetUs: Math.round(plausible.offsetUs), how: 'declared' };
        return timestampUs + plausible.offsetUs;
      }
      // Neither clock: count from the shortest delay seen, as for pictures.
      least = Math.min(least, arrivedUs - lengthUs - timestampUs);
      last = { offsetUs: Math.round(least), how: 'earliest-arrival' };
      return timestampUs + least;
    },
    set: (offsetUs, how) => {
      last = { offsetUs, how };
    },
    offset: () => last,
    seen: nothingSeen,
  };
}

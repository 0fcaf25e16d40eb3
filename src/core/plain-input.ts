import type { SegmentHead } from './take';

/** A segment's file, as an input of the filter graph. */
export type PlainInput = Pick<SegmentHead, 'track' | 'startUs' | 'encoderDelayUs' | 'configuration'> & {
  path: string;
  /** Take times of its packets. */
  timesUs: readonly number[];
};

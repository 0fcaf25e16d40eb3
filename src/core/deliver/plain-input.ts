import type { Size } from '../base/sizes';
import type { AudioConfiguration, SegmentHead, VideoConfiguration } from '../recording/take';

/** A segment's file, as an input of the filter graph. */
export type PlainInput = Pick<SegmentHead, 'track' | 'startUs' | 'encoderDelayUs' | 'configuration'> & {
  path: string;
  /** Take times of its packets. */
  timesUs: readonly number[];
};

export type PlainPicture = PlainInput & { configuration: VideoConfiguration };
export type PlainSound = PlainInput & { configuration: AudioConfiguration };
export const isPicture = (input: PlainInput): input is PlainPicture => input.configuration.type === 'video';
export const isSound = (input: PlainInput): input is PlainSound => input.configuration.type === 'audio';

export const sizeOfPicture = ({ configuration: { width, height } }: PlainPicture): Size => ({
  width,
  height,
});

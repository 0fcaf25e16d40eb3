import type { TakeId } from '../base/ids';
import type { FrameRate } from '../base/rational';
import type { Size } from '../base/sizes';
import type { Gains } from '../cut/cut';
import type { MeasuredVideo } from '../destination/rules';
import type { Layout } from '../layout/layout-kinds';
import type { Packet } from '../recording/packet';
import type { SoundKind } from '../recording/take';

/** A picture segment of a take. Times are the take's. */
export type PictureInput = { path: string; size: Size; startUs: number; endUs: number };

export type SoundInput = {
  track: SoundKind;
  path: string;
  startUs: number;
  endUs: number;
  /** What the encoder put before the first sample. */
  encoderDelayUs: number;
  channels: number;
};

/** Pictures that are encoded already and may be copied packet by packet. */
export type CopySource = {
  what: 'screen' | 'plain';
  path: string;
  video: MeasuredVideo;
  /** Take time less the file's own. */
  shiftUs: number;
  /** Take times of all pictures, ascending. */
  timesUs: readonly number[];
  keyframesUs: readonly number[];
  /** Whether pictures are stored in another order than they are seen. */
  reordered: boolean;
  bytes: number;
};

/** A picture segment with what was recorded in it. */
export type RecordedPicture = PictureInput & { timesUs: readonly number[]; packets: readonly Packet[] };

/** What a render needs to know of a take. */
export type RenderTake = {
  id: TakeId;
  durationUs: number;
  rate: FrameRate;
  /** Of its first screen: every composed picture has this size. */
  size: Size | null;
  /** How the plain video shows and mixes it. */
  plain: { layout: Layout; gains: Gains; path: string | null };
  screens: RecordedPicture[];
  cameras: RecordedPicture[];
  sounds: SoundInput[];
  copies: CopySource[];
  /** Bytes of all its tracks. */
  bytes: number;
};

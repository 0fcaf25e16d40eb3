import type { LessonId, ParcelId, TakeId } from '../base/ids';
import type { Attempt } from '../deliver/attempt';
import type { Expected } from '../deliver/expect';
import type { Destination } from '../destination/destination';
import type { MeasuredFile, RuleResult } from '../destination/rules';
import type { VideoClarity } from '../image/clarity';
import type { JobView, ShareView } from './take-page';

/** What was said before a parcel was made. */
export type ParcelPlan = {
  way: 'as-it-is' | 'whole' | 'smart' | 'encode';
  sentence: string;
  exact: string;
  /** Whether pictures are scaled; absent in plans made before this was said. */
  scaled?: boolean;
  expected: Expected;
  /** Where encoding begins, when three seconds of the video told. */
  attempt?: Attempt;
};

export type ParcelFile = {
  /** On disk and in addresses: `video.mp4`. */
  name: string;
  title: string;
  measured: MeasuredFile;
  rules: RuleResult[];
};

/** What was found in the finished files themselves. */
export type ParcelFacts = {
  files: ParcelFile[];
  bytes: number;
  durationUs: number;
  /** Bytes of the takes' tracks that are in it. */
  takeBytes: number;
  /** Text clarity beside the recorded pictures; null when no text was found or no picture was encoded. */
  clarity: VideoClarity | null;
  /** The same of the colour of text, as 4:2:0 carries it. Missing in parcels that were made before it was looked at. */
  colour?: VideoClarity | null;
  /** Share of the pictures that were copied to the last bit. */
  copiedShare: number;
  crf: number | null;
  /** How long making took. */
  seconds: number;
};

/** What the Hand over stage shows of a lesson; null while there is nothing to hand over. */
export type HandOverPage = { lengthUs: number; takeBytes: number; parcels: ParcelView[] } | null;

/** What the Hand over stage shows of a parcel. */
export type ParcelView = {
  id: ParcelId;
  lessonId: LessonId;
  destination: Destination;
  /** What it shows pieces of. */
  takes: TakeId[];
  lengthUs: number;
  steps: number;
  /** Which cut it shows: the one that would be handed over now, one from before the last edit, or all of a take beside the cut. */
  shows: 'present' | 'earlier' | 'take';
  plan: ParcelPlan;
  facts: ParcelFacts | null;
  job: JobView | null;
  share: ShareView | null;
  /** ISO 8601 */
  createdAt: string;
};

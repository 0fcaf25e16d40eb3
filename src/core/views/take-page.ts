import type { Treatment } from '../audio/treatment';
import type { LessonId, ShareToken } from '../base/ids';
import type { Format } from '../codec/formats';
import type { SoundTrackKind } from '../deliver/heard-sound';
import type { Arrival } from '../recording/arrival';
import type { Gap } from '../recording/gaps';
import type { StillSpan } from '../recording/still';
import type { SegmentHead, TakeEnd } from '../recording/take';
import type { Rig } from '../rig/rig';
import type { Stage, TakeView } from './lesson';

/** What finishing found in the files themselves. */
export type TakeFacts = {
  durationUs: number;
  bytes: number;
  picture: { width: number; height: number; frames: number; medianFps: number; longestGapMs: number } | null;
  /** Where sources were away. Missing in takes that were finished before this was looked at. */
  gaps?: Gap[];
  /** Where little changes on the screen. Missing in takes of before. */
  still?: StillSpan[];
  /** Sounds that are heard otherwise than they were recorded: each a file of its own. Missing in takes of before. */
  heard?: SoundTrackKind[];
  /** When all of it was made, so that what was made before is not taken for it. */
  madeAt?: string;
  plainVideo: { bytes: number; durationUs: number; pictureCopied: boolean } | null;
};

export type JobView = {
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  /** 0…1 */
  progress: number;
  step: string;
  problem: string | null;
  /** Estimated from the progress so far; null while there is too little of it. */
  secondsLeft: number | null;
};

export type SegmentView = Pick<
  SegmentHead,
  'id' | 'track' | 'index' | 'startUs' | 'configuration' | 'encoderDelayUs'
> & {
  bytes: number;
};

/** A format of a take: there, in the making, to be had, or refused with the reason. */
export type TakeFile = { format: Format; refusal: string | null; bytes: number | null; job: JobView | null };

/** A link that shows a take or a parcel to whoever has it. */
export type ShareView = { token: ShareToken; url: string };

/** Everything the page and the player of one take need. */
export type TakePage = TakeView & {
  lesson: { id: LessonId; title: string; stage: Stage; done: Stage[] };
  rig: Rig;
  ledger: TakeEnd['ledger'];
  cutOff: boolean;
  /** Finished with what had arrived; its browser may still send the rest. */
  partial: boolean;
  /** Made of a file; nobody recorded it here. */
  imported: boolean;
  /** While it is on its way from a browser. */
  arrival: Arrival | null;
  facts: TakeFacts | null;
  segments: SegmentView[];
  job: JobView | null;
  share: ShareView | null;
  files: TakeFile[];
  copies: { copies: { name: string; store: string; bytes: number }[]; job: JobView | null };
  /** Chosen for this take after it was recorded; null follows its rig. */
  treatment: Treatment | null;
  /** What happened with nobody there: it ended automatically, it began late. */
  byItself: string[];
};

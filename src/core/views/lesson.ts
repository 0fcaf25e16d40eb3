import type { LessonId, TakeId } from '../base/ids';
import type { MeasuredTake } from '../encoding/measured';
import type { Rig } from '../rig/rig';

/** The five stages of a lesson, in the order people work. */
export const STAGES = [
  { key: 'set-up', name: 'Set up' },
  { key: 'rehearse', name: 'Rehearse' },
  { key: 'record', name: 'Record' },
  { key: 'edit', name: 'Edit' },
  { key: 'hand-over', name: 'Hand over' },
] as const;
export type Stage = (typeof STAGES)[number]['key'];

/**
 * The stages that have left something: what a tick on a stone means, on every page.
 * @param has a rehearsal, a take that is not deleted, a cut of its own, a parcel that was made
 */
export function stagesDone(has: {
  rehearsed: boolean;
  recorded: boolean;
  cut: boolean;
  handedOver: boolean;
}): Stage[] {
  const left: Record<Stage, boolean> = {
    // A rig that has recorded is one that was set up.
    'set-up': has.recorded,
    rehearse: has.rehearsed,
    record: has.recorded,
    edit: has.cut,
    'hand-over': has.handedOver,
  };
  return STAGES.map(({ key }) => key).filter((key) => left[key]);
}

/** `uploading` until every segment is confirmed, `finishing` while the job runs. */
export type TakeState = 'recording' | 'uploading' | 'finishing' | 'ready' | 'failed';

/** What the pages show of a take. Plain data: it crosses from server to browser. */
export type TakeView = {
  id: TakeId;
  number: number;
  title: string;
  state: TakeState;
  /** ISO 8601 */
  startedAt: string;
  durationUs: number | null;
  withCamera: boolean;
  hasThumbnail: boolean;
};

/** A take in the list of all takes of its lesson. */
export type TakeListEntry = TakeView & {
  /** Of everything that was recorded. */
  bytes: number;
  /** Whether the lesson's cut is made of it, among others. */
  inCut: boolean;
  /** Whether it is in the bin. */
  deleted: boolean;
};

export type LessonView = {
  id: LessonId;
  title: string;
  /** Where the work stands. */
  stage: Stage;
  done: Stage[];
  rig: Rig;
  /** Of the rig: to be sent with the next change of it. */
  rigRevision: number;
  /** ISO 8601 */
  updatedAt: string;
  /** The newest first. */
  takes: TakeView[];
  /** Of the newest take that is finished; only where one lesson is asked for. */
  measured: MeasuredTake | null;
  /** What was recorded with last elsewhere, for a lesson without a take. */
  lastTime: { lesson: string; rig: Rig } | null;
  /** Why its last scheduled take did not start, until somebody takes that message away; only in the list of lessons. */
  missed: string | null;
};

const ORDINALS = ['First', 'Second', 'Third', 'Fourth', 'Fifth', 'Sixth', 'Seventh', 'Eighth', 'Ninth'];

/** The name a take was given, or its number in words. */
export function takeTitle(take: { title?: string | null; number: number }): string {
  const ordinal = ORDINALS[take.number - 1];
  return take.title ?? (ordinal ? `${ordinal} take` : `Take ${take.number}`);
}

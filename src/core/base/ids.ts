import { z } from 'zod';

/** 128 random bits in base64url: cannot be guessed, safe in addresses, file names and on every file system. */
const ID = /^[A-Za-z0-9_-]{22}$/;
const id = () => z.string().regex(ID, 'must be an id of 22 characters');

export const LessonId = id().brand<'LessonId'>();
export const TakeId = id().brand<'TakeId'>();
export const SegmentId = id().brand<'SegmentId'>();
export const StepId = id().brand<'StepId'>();
export const ParcelId = id().brand<'ParcelId'>();
export const RigId = id().brand<'RigId'>();
export const StoreId = id().brand<'StoreId'>();
export const IncomingId = id().brand<'IncomingId'>();
export const ScheduleId = id().brand<'ScheduleId'>();
export const RehearsalId = id().brand<'RehearsalId'>();
/** Names a share link. Whoever has it may watch; nobody can guess it. */
export const ShareToken = id().brand<'ShareToken'>();
export type LessonId = z.infer<typeof LessonId>;
export type TakeId = z.infer<typeof TakeId>;
export type SegmentId = z.infer<typeof SegmentId>;
export type StepId = z.infer<typeof StepId>;
export type ParcelId = z.infer<typeof ParcelId>;
export type RigId = z.infer<typeof RigId>;
export type StoreId = z.infer<typeof StoreId>;
export type IncomingId = z.infer<typeof IncomingId>;
export type ScheduleId = z.infer<typeof ScheduleId>;
export type RehearsalId = z.infer<typeof RehearsalId>;
export type ShareToken = z.infer<typeof ShareToken>;

/** A new unguessable id. The web's `crypto` is the same object in browsers, workers and Node. */
function newId(): string {
  const bytes = globalThis.crypto.getRandomValues(new Uint8Array(16));
  return btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .slice(0, 22);
}

export const newLessonId = (): LessonId => newId() as LessonId;
export const newTakeId = (): TakeId => newId() as TakeId;
export const newSegmentId = (): SegmentId => newId() as SegmentId;
export const newStepId = (): StepId => newId() as StepId;
export const newParcelId = (): ParcelId => newId() as ParcelId;
export const newRigId = (): RigId => newId() as RigId;
export const newStoreId = (): StoreId => newId() as StoreId;
export const newIncomingId = (): IncomingId => newId() as IncomingId;
export const newScheduleId = (): ScheduleId => newId() as ScheduleId;
export const newRehearsalId = (): RehearsalId => newId() as RehearsalId;
export const newShareToken = (): ShareToken => newId() as ShareToken;
/** Marks a database and its media folder as belonging together. */
export const newInstanceId = (): string => newId();

import { defineEntity, type InferEntity, p } from '@mikro-orm/core';
import { Treatment } from '@/core/audio/treatment';
import type {
  IncomingId,
  LessonId,
  ParcelId,
  RehearsalId,
  RigId,
  ScheduleId,
  SegmentId,
  ShareToken,
  StoreId,
  TakeId,
} from '@/core/base/ids';
import type { Format } from '@/core/codec/formats';
import { Cut } from '@/core/cut/cut';
import { Destination } from '@/core/destination/destination';
import type { ScheduledState } from '@/core/recording/schedule';
import type { SegmentHead, TakeEnd, TakeHead, TrackKind } from '@/core/recording/take';
import { RehearsalTrace } from '@/core/rehearsal/frame-trace';
import { RehearsalSummary } from '@/core/rehearsal/rehearsal';
import { Rig } from '@/core/rig/rig';
import type { Stage, TakeState } from '@/core/views/lesson';
import type { ParcelFacts, ParcelPlan } from '@/core/views/parcel';
import type { TakeFacts } from '@/core/views/take-page';
import { parsed } from './parsed-json';

const moments = {
  createdAt: p.datetime().onCreate(() => new Date()),
  updatedAt: p
    .datetime()
    .onCreate(() => new Date())
    .onUpdate(() => new Date()),
};

export const Lesson = defineEntity({
  name: 'Lesson',
  properties: {
    id: p.text().primary().$type<LessonId>(),
    title: p.text(),
    stage: p.text().$type<Stage>(),
    rig: parsed(Rig),
    /** Grows with every change of the rig, so that two tabs cannot overwrite each other. */
    rigRevision: p.integer().default(0),
    takes: () => p.oneToMany(Take).mappedBy('lesson'),
    deletedAt: p.datetime().nullable(),
    ...moments,
  },
});
export type Lesson = InferEntity<typeof Lesson>;

export const Take = defineEntity({
  name: 'Take',
  properties: {
    /** Made in the browser. */
    id: p.text().primary().$type<TakeId>(),
    lesson: () => p.manyToOne(Lesson).index(),
    /** Counts within the lesson, from 1. */
    number: p.integer(),
    title: p.text().nullable(),
    state: p.text().$type<TakeState>(),
    rig: parsed(Rig),
    startedAt: p.datetime(),
    browser: p.text(),
    machine: p.json<TakeHead['machine']>(),
    durationUs: p.bigint('number').nullable(),
    pauses: p.json<TakeEnd['pauses']>().nullable(),
    ledger: p.json<TakeEnd['ledger']>().nullable(),
    cutOff: p.boolean().default(false),
    /** Finished with what had arrived; its browser may still send the rest. */
    partial: p.boolean().default(false),
    facts: p.json<TakeFacts>().nullable(),
    /** Of its voice, chosen after it was recorded; null follows its rig. */
    treatment: parsed(Treatment).nullable(),
    tracks: () => p.oneToMany(Track).mappedBy('take'),
    deletedAt: p.datetime().nullable(),
    ...moments,
  },
  uniques: [{ properties: ['lesson', 'number'] }],
});
export type Take = InferEntity<typeof Take>;

export const Track = defineEntity({
  name: 'Track',
  properties: {
    id: p.integer().primary().autoincrement(),
    take: () => p.manyToOne(Take),
    kind: p.text().$type<TrackKind>(),
    segments: () => p.oneToMany(Segment).mappedBy('track'),
  },
  uniques: [{ properties: ['take', 'kind'] }],
});
export type Track = InferEntity<typeof Track>;

export const Segment = defineEntity({
  name: 'Segment',
  properties: {
    id: p.text().primary().$type<SegmentId>(),
    track: () => p.manyToOne(Track),
    index: p.integer(),
    startUs: p.bigint('number'),
    configuration: p.json<SegmentHead['configuration']>(),
    encoderDelayUs: p.integer(),
    offsetUs: p.bigint('number'),
    offsetHow: p.text().$type<SegmentHead['offsetHow']>(),
    continues: p.boolean().default(false),
    /** `partial`: the take was finished with what had arrived of it. */
    state: p.text().$type<'expected' | 'partial' | 'confirmed'>(),
    bytes: p.bigint('number').nullable(),
    sha256: p.text().nullable(),
    /** The packet index is confirmed alone. */
    indexBytes: p.bigint('number').nullable(),
  },
  uniques: [{ properties: ['track', 'index'] }],
});
export type Segment = InferEntity<typeof Segment>;

/** Appended from the events track when a take is finished; never changed. */
export const TakeEventRow = defineEntity({
  name: 'TakeEvent',
  properties: {
    id: p.integer().primary().autoincrement(),
    take: () => p.manyToOne(Take),
    version: p.integer(),
    seq: p.integer(),
    atUs: p.bigint('number'),
    kind: p.text(),
    data: p.json<Record<string, string | number | boolean>>(),
  },
  uniques: [{ properties: ['take', 'seq'] }],
});

/** The one arrangement of a lesson. `revision` grows with every save, so that two tabs cannot overwrite each other. */
export const CutRow = defineEntity({
  name: 'Cut',
  properties: {
    lesson: () => p.oneToOne(Lesson).primary().owner(),
    document: parsed(Cut),
    revision: p.integer(),
    ...moments,
  },
});

/** Every saved state of a lesson's cut. */
export const CutVersion = defineEntity({
  name: 'CutVersion',
  properties: {
    id: p.integer().primary().autoincrement(),
    lesson: () => p.manyToOne(Lesson).deleteRule('cascade'),
    revision: p.integer(),
    document: parsed(Cut),
    /** What this state changed. */
    change: p.text(),
    /** Kept whatever its age: it was replaced whole by another cut. */
    pinned: p.boolean().default(false),
    createdAt: moments.createdAt,
  },
  uniques: [{ properties: ['lesson', 'revision'] }],
});
export type CutVersion = InferEntity<typeof CutVersion>;

/** The database's half of its pairing with the media folder (`core/keeping/pairing.ts`): one row. */
export const InstanceRow = defineEntity({
  name: 'Instance',
  properties: {
    id: p.text().primary(),
    sweeps: p.integer(),
  },
});

/** A rig that was given a name, to begin other lessons with. A lesson keeps a copy: nothing changes in it when this does. */
export const NamedRig = defineEntity({
  name: 'NamedRig',
  properties: {
    id: p.text().primary().$type<RigId>(),
    name: p.text(),
    rig: parsed(Rig),
    /** New lessons begin with it; at most one. */
    isDefault: p.boolean().default(false),
    deletedAt: p.datetime().nullable(),
    ...moments,
  },
});
export type NamedRig = InferEntity<typeof NamedRig>;

/** One delivery of a lesson's cut: destination and cut as they were when it was ordered. */
export const Parcel = defineEntity({
  name: 'Parcel',
  properties: {
    id: p.text().primary().$type<ParcelId>(),
    lesson: () => p.manyToOne(Lesson).index(),
    destination: parsed(Destination),
    cut: parsed(Cut),
    plan: p.json<ParcelPlan>(),
    /** Null until it is made. */
    facts: p.json<ParcelFacts>().nullable(),
    deletedAt: p.datetime().nullable(),
    ...moments,
  },
});
export type Parcel = InferEntity<typeof Parcel>;

/** A link that shows one parcel or one take to whoever has it, until it is revoked. */
export const Share = defineEntity({
  name: 'Share',
  properties: {
    token: p.text().primary().$type<ShareToken>(),
    /** One of the two. */
    parcel: () => p.manyToOne(Parcel).nullable(),
    take: () => p.manyToOne(Take).nullable(),
    revokedAt: p.datetime().nullable(),
    ...moments,
  },
});
export type Share = InferEntity<typeof Share>;

/** A folder on the studio's machine that gets copies of finished files. */
export const Store = defineEntity({
  name: 'Store',
  properties: {
    id: p.text().primary().$type<StoreId>(),
    name: p.text(),
    folder: p.text().unique(),
    /** Measured when it was added. */
    bytesPerSecond: p.double().$type<number>().nullable(),
    deletedAt: p.datetime().nullable(),
    ...moments,
  },
});
export type Store = InferEntity<typeof Store>;

/** A finished file that was copied to a store, under the name that was free there. */
export const CopyRow = defineEntity({
  name: 'Copy',
  properties: {
    id: p.integer().primary().autoincrement(),
    take: () => p.manyToOne(Take).index(),
    store: () => p.manyToOne(Store),
    /** Which of the take's files it is. */
    file: p.text(),
    name: p.text(),
    bytes: p.bigint('number'),
    sha256: p.text(),
    ...moments,
  },
});

/** A take that is to begin at a time of day, in a page that stays open. */
export const Scheduled = defineEntity({
  name: 'Scheduled',
  properties: {
    id: p.text().primary().$type<ScheduleId>(),
    lesson: () => p.manyToOne(Lesson).index(),
    startAt: p.datetime(),
    stopAt: p.datetime().nullable(),
    state: p.text().$type<ScheduledState>(),
    /** Why it did not start. */
    problem: p.text().nullable(),
    take: p.text().nullable().$type<TakeId | null>(),
    ...moments,
  },
});
export type Scheduled = InferEntity<typeof Scheduled>;

/** What a rehearsal came to. Its media was thrown away; `trace` has every frame. */
export const RehearsalRow = defineEntity({
  name: 'Rehearsal',
  properties: {
    /** Made in the browser. */
    id: p.text().primary().$type<RehearsalId>(),
    lesson: () => p.manyToOne(Lesson).deleteRule('cascade'),
    /** Counts within the lesson, from 1. */
    number: p.integer(),
    summary: parsed(RehearsalSummary),
    trace: parsed(RehearsalTrace),
    createdAt: moments.createdAt,
  },
  uniques: [{ properties: ['lesson', 'number'] }],
});
export type RehearsalRow = InferEntity<typeof RehearsalRow>;

/** A file that somebody imports into a lesson; it stays in `inspected/` until its job has made a take of it. */
export const Incoming = defineEntity({
  name: 'Incoming',
  properties: {
    id: p.text().primary().$type<IncomingId>(),
    lesson: () => p.manyToOne(Lesson).index().deleteRule('cascade'),
    /** What it was called, for people. */
    name: p.text(),
    /** Place of the video where the take is added. */
    atUs: p.bigint('number').$type<number>(),
    /** What it becomes: known before, so that a job that begins again finds what the last one left. */
    takeId: p.text().$type<TakeId>(),
    /** Of slides; null until they are made, and for video and sound. */
    pages: p.integer().nullable(),
    createdAt: moments.createdAt,
  },
});
export type Incoming = InferEntity<typeof Incoming>;

export type JobKind = 'finish-take' | 'render-parcel' | 'make-format' | 'copy-files' | 'bring-file';
/** A take's format, or its copies: each is a job of its own. */
export type TakeFileSubject = `${string}.${Format | 'copies'}`;
/** What a job is about: a take, a parcel, files of a take, or a file that becomes one. */
export type JobSubject = TakeId | ParcelId | TakeFileSubject | IncomingId;
export type JobState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';

/** What a person sees of a job; who runs it next is the queue's business. */
export const Job = defineEntity({
  name: 'Job',
  properties: {
    id: p.integer().primary().autoincrement(),
    subject: p.text().$type<JobSubject>(),
    kind: p.text().$type<JobKind>(),
    state: p.text().$type<JobState>(),
    /** 0…1 */
    progress: p.double().$type<number>(),
    step: p.text(),
    problem: p.text().nullable(),
    startedAt: p.datetime().nullable(),
    ...moments,
  },
  uniques: [{ properties: ['subject', 'kind'] }],
});
export type Job = InferEntity<typeof Job>;

export const ENTITIES = [
  Lesson,
  Take,
  Track,
  Segment,
  TakeEventRow,
  CutRow,
  CutVersion,
  InstanceRow,
  NamedRig,
  Parcel,
  Share,
  Store,
  CopyRow,
  Scheduled,
  RehearsalRow,
  Incoming,
  Job,
];

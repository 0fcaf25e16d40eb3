import { z } from 'zod';
import { LessonId, SegmentId, TakeId } from '../base/ids';
import { Rig } from '../rig/rig';

export const TrackKind = z.enum(['screen', 'camera', 'voice', 'app-sound', 'events']);
export type TrackKind = z.infer<typeof TrackKind>;
export const SoundKind = TrackKind.extract(['voice', 'app-sound']);
export type SoundKind = z.infer<typeof SoundKind>;
export const TRACK_NAMES: Record<TrackKind, string> = {
  screen: 'Screen',
  camera: 'Camera',
  voice: 'Voice',
  'app-sound': 'App sound',
  events: 'Events',
};

const Us = z.int().min(0).max(Number.MAX_SAFE_INTEGER);

/** What is known when a recording starts. Made in the browser, so that recording needs no server. */
export const TakeHead = z.object({
  id: TakeId,
  lessonId: LessonId,
  rig: Rig,
  /** Wall clock at take time 0. */
  startedAt: z.iso.datetime(),
  browser: z.string().max(300),
  machine: z.object({ cores: z.int().min(0).max(4096), memoryGb: z.number().min(0).max(100_000).nullable() }),
});
export type TakeHead = z.infer<typeof TakeHead>;

/** How a source's timestamps were brought to the take's clock. */
export const OffsetHow = z.enum(['declared', 'paired', 'earliest-arrival']);
export type OffsetHow = z.infer<typeof OffsetHow>;

export const VideoConfiguration = z.object({
  type: z.literal('video'),
  codec: z.string().max(60),
  width: z.int().min(2).max(16384),
  height: z.int().min(2).max(16384),
  bitrateKbps: z.int().min(1),
  textHint: z.boolean(),
  /** Size of what arrived, before scaling. */
  sourceWidth: z.int().min(1).max(16384),
  sourceHeight: z.int().min(1).max(16384),
});
export const AudioConfiguration = z.object({
  type: z.literal('audio'),
  codec: z.string().max(60),
  sampleRate: z.int().min(8000).max(192_000),
  channels: z.int().min(1).max(2),
  bitrateKbps: z.int().min(1),
});

export type VideoConfiguration = z.infer<typeof VideoConfiguration>;
export type AudioConfiguration = z.infer<typeof AudioConfiguration>;

/** One media file of a track. A track that comes late, returns or changes its size continues in a new segment; so does a long one. */
export const SegmentHead = z.object({
  id: SegmentId,
  track: TrackKind,
  index: z.int().min(0).max(9999),
  startUs: Us,
  configuration: z.discriminatedUnion('type', [
    VideoConfiguration,
    AudioConfiguration,
    z.object({ type: z.literal('events') }),
  ]),
  /** Sound that the encoder adds before the first sample. */
  encoderDelayUs: Us,
  /** Added to the source's timestamps to get the shared monotonic clock. */
  offsetUs: z.int(),
  offsetHow: OffsetHow,
  /** Its first packet is the one after the last of the segment before it in its track, from the same encoder. */
  continues: z.boolean().default(false),
});
export type SegmentHead = z.infer<typeof SegmentHead>;

/** The files of a segment: the media and its packet index (`µs bytes key`, a line a packet). */
export const SegmentPart = z.enum(['media', 'index']);
export type SegmentPart = z.infer<typeof SegmentPart>;

export const FrameLedger = z.object({
  askedFps: z.number(),
  arrived: Us,
  encoded: Us,
  repeated: Us,
  skipped: Us,
  dropped: Us,
  /** Made by the source but never seen here; known only of sources that count. */
  lostBefore: Us.nullable(),
  /** Seconds of the take in which frames were dropped or lost, in order; missing in takes of before. */
  droppedAtS: z.array(Us).max(100_000).optional(),
  encodeP50Ms: z.number(),
  encodeP95Ms: z.number(),
});
export type FrameLedger = z.infer<typeof FrameLedger>;

/** What is known when a recording has ended. */
export const TakeEnd = z.object({
  durationUs: Us,
  pauses: z.array(z.object({ atUs: Us, durationUs: Us })).max(10_000),
  ledger: z.partialRecord(z.enum(['screen', 'camera']), FrameLedger),
  segments: z.array(SegmentId).max(10_000),
  /** Of these: segments that the browser has no file of. Those that were not confirmed either do not belong to the take. */
  absent: z.array(SegmentId).max(10_000).default([]),
  /** Nobody ended it: tab, browser or machine did. */
  cutOff: z.boolean().default(false),
});
export type TakeEnd = z.infer<typeof TakeEnd>;

/** One line of the events track. Only ever appended; `seq` counts from 0 within a take. */
export const TakeEvent = z.object({
  v: z.literal(1),
  seq: z.int().min(0),
  tUs: Us,
  kind: z.enum([
    'pointer',
    'click',
    'key',
    'mark',
    'source',
    'pause',
    'resume',
    'sleep',
    'region',
    'schedule',
    'limit',
    'fault',
  ]),
  data: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])),
});
export type TakeEvent = z.infer<typeof TakeEvent>;

/** Where in the screen's picture something happened, in the data of its event; missing outside it. */
export const PictureShare = z.object({
  pictureX: z.number().min(0).max(1),
  pictureY: z.number().min(0).max(1),
});
export type PictureShare = z.infer<typeof PictureShare>;

export const ConfirmPart = z.object({
  part: SegmentPart,
  bytes: z.int().min(0),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
});

import { z } from 'zod';
import { Heard } from '@/core/audio/sound-heard';
import { Treatment } from '@/core/audio/treatment';
import { Problem } from '@/core/base/problem';
import { VideoCodec } from '@/core/codec/codecs';
import { FrameLedger, SegmentHead, TakeEnd, TakeEvent, TakeHead } from '@/core/recording/take';
import { RehearsalTrace } from '@/core/rehearsal/frame-trace';
import { MeasuredClarity } from '@/core/rehearsal/rehearsal';
import { RigDocument } from '@/core/rig/rig';

/** Grows whenever a message changes its meaning: page and worker of different builds refuse each other. */
export const PROTOCOL = 2;

export const MediaRole = z.enum(['screen', 'camera', 'voice', 'app-sound']);
export type MediaRole = z.infer<typeof MediaRole>;

/** A source as the worker sees it: a stream of frames or sound, and what is known of its clock. */
export const SourceInput = z.object({
  /** Tells a source from the one that had its role before. */
  id: z.int(),
  role: MediaRole,
  type: z.enum(['video', 'audio']),
  readable: z.instanceof(ReadableStream<VideoFrame | AudioData>),
  /** `page`: timestamps are µs since the page's time origin. `unknown`: to be measured. */
  clock: z.enum(['page', 'unknown']),
  /** Its timestamps carry sequence numbers. */
  sequenced: z.boolean(),
});
export type SourceInput = z.infer<typeof SourceInput>;

/** How a picture track is encoded. */
export const VideoSettings = RigDocument.shape.picture
  .omit({ source: true, regions: true, viewer: true, pointer: true })
  .extend({
    codec: VideoCodec,
    /** What encodes where this codec fails again and again; undefined where the rig leaves no other open. */
    otherCodec: VideoCodec.optional(),
    /** Time of a picture with the text hint as measured here before; undefined when it never was. */
    measuredHintMs: z.number().positive().optional(),
  });
export type VideoSettings = z.infer<typeof VideoSettings>;

/** How a sound track is kept. */
export const SoundSettings = z.object({
  codec: RigDocument.shape.sound.shape.codec,
  /** Sample rate, Hz; `null` as the device gives them. */
  sampleRate: RigDocument.shape.sound.shape.sampleRate,
  kbps: z.int().positive(),
  channels: z.union([z.literal(1), z.literal(2)]),
  /** Processing before it is recorded; `null` records it raw. */
  treatment: Treatment.nullable(),
});
export type SoundSettings = z.infer<typeof SoundSettings>;

const AttachSettings = z.union([z.object({ video: VideoSettings }), z.object({ sound: SoundSettings })]);
export type AttachSettings = z.infer<typeof AttachSettings>;

const at = { atUs: z.number() };

/** From the page. All times: µs since the page's time origin. */
export const ToRecorder = z.discriminatedUnion('type', [
  z.object({ type: z.literal('open'), protocol: z.literal(PROTOCOL), pageOriginMs: z.number() }),
  /** Can come at any time, also in the middle of a take: the track then begins a new segment. */
  z.object({
    type: z.literal('attach'),
    source: SourceInput,
    settings: AttachSettings,
  }),
  z.object({ type: z.literal('detach'), role: MediaRole }),
  /** Where a source's pictures are shown. */
  z.object({ type: z.literal('preview'), role: MediaRole, port: z.instanceof(MessagePort) }),
  /** Whoever looks at some pictures for a while, beside the preview; ends with the port. */
  z.object({ type: z.literal('sample'), role: MediaRole, port: z.instanceof(MessagePort) }),
  /** `again`: its canvas is empty. `off`: nobody looks any more. */
  z.object({ type: z.literal('preview-state'), role: MediaRole, state: z.enum(['again', 'off']) }),
  /** Asks for the timestamps of the pictures read so far. */
  z.object({ type: z.literal('timestamps'), role: MediaRole }),
  /** The exact offset of a video source's timestamps, found by the page. */
  z.object({ type: z.literal('offset'), role: MediaRole, offsetUs: z.number() }),
  z.object({
    type: z.literal('start'),
    head: TakeHead,
    /** How long it is, µs, where it is a rehearsal: every frame is noted, and nothing of it is uploaded. */
    rehearsalUs: z.number().positive().optional(),
    /** How long a segment of a long track is, where it is not the usual length. */
    segmentUs: z.number().positive().optional(),
  }),
  z.object({ type: z.literal('pause'), ...at }),
  z.object({ type: z.literal('resume'), ...at }),
  /** The screen is the practice desk, whose script began at this time: it tells where the pointer is. */
  z.object({
    type: z.literal('pointer-script'),
    cueUs: z.number(),
    /** From the script's places to those in what is captured. */
    shift: z.object({ x: z.int(), y: z.int() }),
  }),
  z.object({ type: z.literal('mute'), role: MediaRole, muted: z.boolean() }),
  z.object({ type: z.literal('stop'), ...at }),
  z.object({ type: z.literal('discard') }),
  /** The page needs the recorder no more. What is still on its way is let go, then the worker ends itself. */
  z.object({ type: z.literal('close') }),
  z.object({ type: z.literal('event'), kind: TakeEvent.shape.kind, data: TakeEvent.shape.data, ...at }),
]);
export type ToRecorder = z.infer<typeof ToRecorder>;

const VideoFigures = FrameLedger.omit({ lostBefore: true }).extend({
  /** Pictures encoded or repeated a second, over the last two seconds. */
  achievedFps: z.number(),
  arrivedFps: z.number(),
  queue: z.int(),
  bytes: z.int(),
  /** Size of what arrives now. */
  source: z.object({ width: z.int(), height: z.int() }).nullable(),
  /** Where a region that follows the pointer is now; null where none does. */
  region: z.object({ x: z.int(), y: z.int(), width: z.int(), height: z.int() }).nullable(),
  /** Size that is encoded, once it is known. */
  picture: z.object({ width: z.int(), height: z.int() }).nullable(),
  textHint: z.boolean().nullable(),
  /** Why the text hint is on or off. */
  hintReason: z.string().nullable(),
});
export type VideoFigures = z.infer<typeof VideoFigures>;

/** Told four times per second from the moment a source is attached. */
export const Figures = z.object({
  recording: z.boolean(),
  paused: z.boolean(),
  elapsedUs: z.number(),
  bytes: z.int(),
  /** Recorded but not yet written to the browser's disk. */
  unwritten: z.int(),
  /** How long the browser's storage takes this; null while it is not known. */
  roomS: z.number().nullable(),
  video: z.partialRecord(z.enum(['screen', 'camera']), VideoFigures),
  /** Peak of the last quarter second, dBFS. */
  levels: z.partialRecord(z.enum(['voice', 'app-sound']), z.number()),
  heard: z.partialRecord(z.enum(['voice', 'app-sound']), Heard),
  /** Tracks of this take that ended because everything that was tried to go on with them failed, and what failed. */
  failed: z.partialRecord(MediaRole, z.string()),
});
export type Figures = z.infer<typeof Figures>;

/** What the recorder knows of a rehearsal that has ended. */
export const Rehearsed = z.object({
  frames: RehearsalTrace.shape.frames,
  cameraFrames: RehearsalTrace.shape.frames,
  writes: RehearsalTrace.shape.writes,
  soundGaps: RehearsalTrace.shape.soundGaps,
  clarity: MeasuredClarity.nullable(),
  /** In the rehearsal's folder. */
  segments: z.array(SegmentHead),
});
export type Rehearsed = z.infer<typeof Rehearsed>;

export const FromRecorder = z.discriminatedUnion('type', [
  z.object({ type: z.literal('opened') }),
  /** `problem`: why it could not be attached. */
  z.object({ type: z.literal('attached'), role: MediaRole, id: z.int(), problem: Problem.nullable() }),
  z.object({
    type: z.literal('timestamps'),
    role: MediaRole,
    timestampsUs: z.array(z.number()),
    /** The offset by the earliest arrivals: too large by the shortest delay. */
    earliestOffsetUs: z.number(),
  }),
  z.object({ type: z.literal('figures'), figures: Figures }),
  z.object({ type: z.literal('started'), baseUs: z.number() }),
  /** The source gave its last frame: unplugged, or sharing was ended by the browser's own button. */
  z.object({ type: z.literal('ended'), role: MediaRole, id: z.int() }),
  /** The machine was asleep, or stood still. */
  z.object({ type: z.literal('slept') }),
  z.object({ type: z.literal('stopped'), end: TakeEnd, rehearsed: Rehearsed.nullable() }),
  z.object({ type: z.literal('discarded') }),
  z.object({ type: z.literal('problem'), problem: Problem, fatal: z.boolean() }),
]);
export type FromRecorder = z.infer<typeof FromRecorder>;

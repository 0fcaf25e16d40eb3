import { z } from 'zod';
import { Problem } from '@/core/base/problem';
import { FrameRate } from '@/core/base/rational';
import { Size } from '@/core/base/sizes';
import { Arrangement } from './desk/arrangement';
import { VIEWS, type View } from './desk/views';

export const PictureKind = z.enum([
  ...(Object.keys(VIEWS) as [View, ...View[]]),
  'slides',
  'test-card',
  'presenter',
  'presenter-green',
]);
export type PictureKind = z.infer<typeof PictureKind>;
export const SoundKind = z.enum(['voice', 'far-voice', 'program-sound', 'beep', 'high-tone']);
export type SoundKind = z.infer<typeof SoundKind>;

/** From the page to the practice worker. `writable` is the far end of a generated track. */
export const ToPractice = z.discriminatedUnion('type', [
  /** First of all: the page's clock, which every practice timestamp is in. */
  z.object({ type: z.literal('start'), pageOriginMs: z.number() }),
  z.object({
    type: z.literal('open-picture'),
    id: z.int(),
    kind: PictureKind,
    size: Size,
    rate: FrameRate,
    writable: z.instanceof(WritableStream<VideoFrame>),
  }),
  z.object({
    type: z.literal('open-sound'),
    id: z.int(),
    kind: SoundKind,
    writable: z.instanceof(WritableStream<AudioData>),
  }),
  /** It gives nothing until `again`: answered when that holds. */
  z.object({ type: z.literal('hold'), id: z.int() }),
  /** A display that stands still shows itself once more. */
  z.object({ type: z.literal('again'), id: z.int() }),
  z.object({ type: z.literal('close'), id: z.int() }),
  /** Nobody needs the desk any more: the worker ends itself. */
  z.object({ type: z.literal('end') }),
  /** Everything begins again from the first instant of its script. */
  z.object({ type: z.literal('cue') }),
  z.object({ type: z.literal('arrange'), arrangement: Arrangement }),
  /** Draws single pictures at times of the script, for whoever compares with them. */
  z.object({ type: z.literal('draw'), kind: PictureKind, size: Size, atMs: z.array(z.number()) }),
  z.object({ type: z.literal('measure'), kind: PictureKind, size: Size, frames: z.int() }),
]);
export type ToPractice = z.infer<typeof ToPractice>;

export const FromPractice = z.discriminatedUnion('type', [
  z.object({ type: z.literal('opened'), id: z.int() }),
  z.object({ type: z.literal('failed'), id: z.int(), problem: Problem }),
  /** A device has gone or come back. */
  z.object({ type: z.literal('devices') }),
  z.object({ type: z.literal('held'), id: z.int() }),
  /** The device has given its last. */
  z.object({ type: z.literal('closed'), id: z.int() }),
  /** `cueUs`: shared monotonic time (µs since the page's time origin) of the script's first instant. */
  z.object({ type: z.literal('cued'), cueUs: z.number() }),
  /** One picture in I420; as many come as were asked for, in their order. */
  z.object({ type: z.literal('drawn'), size: Size, data: z.instanceof(Uint8Array<ArrayBuffer>) }),
  z.object({ type: z.literal('measured'), meanMs: z.number(), p95Ms: z.number(), identical: z.boolean() }),
]);
export type FromPractice = z.infer<typeof FromPractice>;

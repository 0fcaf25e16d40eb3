import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { FrameRate } from '@/core/base/rational';
import { Cut } from '@/core/cut/cut';
import { SoundKind } from '@/core/recording/take';

export const PlayerTrack = z.enum(['screen', 'camera', 'voice', 'app-sound']);
export type PlayerTrack = z.infer<typeof PlayerTrack>;

/** A file of the take: one track, or all of them, each known by the name it has in the file. */
export const PlayerFile = z.object({
  url: z.string(),
  track: z.union([PlayerTrack, z.literal('by-name')]),
  /** Tracks of it that another file has in their place. */
  without: z.array(PlayerTrack).optional(),
  /** Added to the file's times to get the take's. */
  shiftUs: z.number(),
});
export type PlayerFile = z.infer<typeof PlayerFile>;

/** A take that a cut is made of. */
export const PlayerTake = z.object({
  id: TakeId,
  files: z.array(PlayerFile),
  /** How long the take is. The files tell it too, but one without an index must be read to its end for that. */
  durationUs: z.number(),
  /** Whose frames are stepped through. */
  rate: FrameRate,
});
export type PlayerTake = z.infer<typeof PlayerTake>;

const at = { us: z.number() };
/** Counts the places that the page has asked for: a picture of an earlier one does not move it back. */
const asked = { asked: z.int() };

/** What a worker is given for a player, together with a port for everything else. */
export const PlayerOrder = z.object({
  pageOriginMs: z.number(),
  takes: z.array(PlayerTake),
  cut: Cut,
  // Asked only when a message comes: pages are drawn on the server too, where there is no canvas.
  canvas: z.custom<OffscreenCanvas>((value) => value instanceof OffscreenCanvas),
});
export type PlayerOrder = z.infer<typeof PlayerOrder>;

export const ToPlayer = z.discriminatedUnion('type', [
  /** What is played changes; the place in it is the page's to say. */
  z.object({ type: z.literal('cut'), cut: Cut, ...at, ...asked }),
  /** The sound's clock: place `us` is heard at page time `pageMs`, and goes on at this speed. Told again while it plays. */
  z.object({ type: z.literal('clock'), pageMs: z.number(), speed: z.number(), ...at }),
  z.object({ type: z.literal('play'), ...at, ...asked }),
  z.object({ type: z.literal('pause') }),
  z.object({ type: z.literal('seek'), ...at, ...asked }),
  /** To a place that is only a frame away: nothing else is shown on the way there. */
  z.object({ type: z.literal('step'), ...at, ...asked }),
  /** Only this sound is heard, or all of them. */
  z.object({ type: z.literal('solo'), track: SoundKind.nullable() }),
  /** How long must the picture be seen that is shown now? */
  z.object({ type: z.literal('reading') }),
  z.object({ type: z.literal('resize'), width: z.int(), height: z.int() }),
  /** Nothing more is wished: the worker lets go of the takes, and may get another order. */
  z.object({ type: z.literal('close') }),
]);
export type ToPlayer = z.infer<typeof ToPlayer>;

export const FromPlayer = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('loaded'),
    width: z.int(),
    height: z.int(),
  }),
  /** A picture is on the canvas. `exact`: it is the one of this time, not yet only the keyframe before it. */
  z.object({
    type: z.literal('shown'),
    exact: z.boolean(),
    /** Pictures of all tracks that were due since the last message while it plays, and those that nobody saw in time. */
    due: z.int(),
    missed: z.int(),
    ...at,
    ...asked,
  }),
  z.object({
    type: z.literal('sound'),
    sampleRate: z.number(),
    planes: z.array(z.instanceof(Float32Array<ArrayBuffer>)),
    gainDb: z.number(),
    ...at,
    ...asked,
  }),
  /** As long as its text takes to be read, µs; null where nothing is shown. */
  z.object({ type: z.literal('reading'), us: z.number().nullable() }),
  z.object({ type: z.literal('failed'), message: z.string() }),
]);
export type FromPlayer = z.infer<typeof FromPlayer>;

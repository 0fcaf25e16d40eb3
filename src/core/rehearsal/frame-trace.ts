import { z } from 'zod';

/**
 * What became of a frame. `recorded` was encoded; `unchanged` shows the last frame again while the source rests; `skipped` came faster
 * than the target; `dropped` was replaced by a newer one because something was busy; `missed` was made by the source and never arrived.
 */
export const FATES = ['recorded', 'unchanged', 'skipped', 'dropped', 'missed'] as const;
export type Fate = (typeof FATES)[number];

/** One frame of a rehearsal, with the time that each stage spent on it. All times in ms but the first. */
export type FrameMark = {
  /** Time on the take's clock. */
  tUs: number;
  fate: Fate;
  /** From the source's timestamp to its arrival at the recorder. */
  deliveryMs: number;
  /** From its arrival until it was given on. */
  waitMs: number;
  /** Cutting, scaling, drawing of bars. */
  composeMs: number;
  /** From the encoder's input to its packet; 0 for a frame that never became one. */
  encodeMs: number;
  /** Of its packet. */
  bytes: number;
  key: boolean;
};

const Ms = z.number().min(0).max(1e7);

/** A frame as it is sent and stored: a row of figures, since a rehearsal has thousands. */
const PackedFrame = z.tuple([
  z.int().min(0),
  z
    .int()
    .min(0)
    .max(FATES.length - 1),
  ...([Ms, Ms, Ms, Ms] as const),
  z.int().min(0),
  z.union([z.literal(0), z.literal(1)]),
]);
export type PackedFrame = z.infer<typeof PackedFrame>;

/** Something that held the recorder up for a while: a write, a long task of the page. */
const Spell = z.object({ atUs: z.number(), ms: Ms });
export type Spell = z.infer<typeof Spell>;

/** All that is measured in a rehearsal. */
export const RehearsalTrace = z.object({
  /** Frames per second of work, not of film. */
  targetFps: z.number().positive(),
  durationUs: z.int().min(0),
  /** Of the screen, in the order of their times: those of a minute, from a display of up to 240 Hz. */
  frames: z.array(PackedFrame).max(20_000),
  /** Of the camera, where one was recorded; shown, not judged: its encoder gives way to the screen's. */
  camera: z
    .object({ targetFps: z.number().positive(), frames: z.array(PackedFrame).max(20_000) })
    .nullable()
    .default(null),
  /** Writes to the browser's disk, of all tracks. `atUs` is when it began. */
  writes: z.array(Spell.extend({ bytes: z.int().min(0) })).max(20_000),
  /** Tasks of the page that took longer than 50 ms. */
  longTasks: z.array(Spell).max(5000),
  /** Silence that was filled in where a sound device delivered nothing. */
  soundGaps: z.array(Spell.extend({ track: z.enum(['voice', 'app-sound']) })).max(5000),
  /** What was recorded and had not reached the server, a quarter of a second apart. */
  upload: z.array(z.object({ atUs: z.number(), recordedBytes: z.int(), sentBytes: z.int() })).max(1000),
});
export type RehearsalTrace = z.infer<typeof RehearsalTrace>;

const tenths = (ms: number) => Math.max(0, Math.round(ms * 10) / 10);

/** @returns a row of figures; `unpackFrame` gives the frame back, its times to a tenth of a millisecond */
export const packFrame = (frame: FrameMark): PackedFrame => [
  Math.max(0, Math.round(frame.tUs)),
  FATES.indexOf(frame.fate),
  tenths(frame.deliveryMs),
  tenths(frame.waitMs),
  tenths(frame.composeMs),
  tenths(frame.encodeMs),
  frame.bytes,
  frame.key ? 1 : 0,
];

export const unpackFrame = ([
  tUs,
  fate,
  deliveryMs,
  waitMs,
  composeMs,
  encodeMs,
  bytes,
  key,
]: PackedFrame): FrameMark => ({
  ...{ tUs, fate: FATES[fate] ?? 'missed', deliveryMs, waitMs, composeMs, encodeMs, bytes, key: key === 1 },
});

/** Time that one frame may take, ms. */
export const budgetMs = ({ targetFps }: Pick<RehearsalTrace, 'targetFps'>): number => 1000 / targetFps;

/** Time that was worked on a frame: what the budget is for. */
export const workMs = ({ composeMs, encodeMs }: FrameMark): number => composeMs + encodeMs;

/** Recorded, and took longer than there was time. */
export const isLate = (frame: FrameMark, budget: number): boolean =>
  frame.fate === 'recorded' && workMs(frame) > budget;

import { z } from 'zod';
import { VideoCodec } from './codecs';
import { FrameRate } from './rational';
import { Size } from './sizes';

/** A device that ships with the application. */
const Practice = z.object({ from: z.literal('practice'), id: z.string().min(1).max(40) });
/** A real camera or microphone, as the browser lists it. */
const Device = z.object({ from: z.literal('device'), id: z.string().max(200), label: z.string().max(200) });

export const Surface = z.enum(['display', 'window', 'tab']);
export type Surface = z.infer<typeof Surface>;
/** A real picture is chosen in the browser's own picker; the rig only says what is meant. */
const Screen = z.object({ from: z.literal('screen'), meant: Surface });

export const PictureSource = z.discriminatedUnion('from', [Practice, Screen]);
export type PictureSource = z.infer<typeof PictureSource>;
export const DeviceSource = z.discriminatedUnion('from', [Practice, Device]);
export type DeviceSource = z.infer<typeof DeviceSource>;
/** App sound comes with the shared screen, or from a loopback device that looks like a microphone. */
export const AppSoundSource = z.discriminatedUnion('from', [
  Practice,
  Device,
  z.object({ from: z.literal('screen') }),
]);
export type AppSoundSource = z.infer<typeof AppSoundSource>;

export const CameraPlace = z.object({
  corner: z.enum(['top-left', 'top-right', 'bottom-left', 'bottom-right']),
  /** Share of the picture's width. */
  width: z.number().min(0.05).max(0.5),
  shape: z.enum(['rounded', 'circle']),
  mirror: z.boolean(),
});
export type CameraPlace = z.infer<typeof CameraPlace>;

/** A named, complete set of recording choices. Kept as JSON; `version` grows when the meaning of a field changes. */
export const Rig = z.object({
  version: z.literal(1),
  picture: z.object({
    source: PictureSource,
    /** The picture fits into this box one to one or smaller; `null` keeps the captured size. */
    box: Size.nullable(),
    frameRate: FrameRate,
    codec: VideoCodec,
    /** `null` is automatic. */
    bitrateKbps: z.int().min(100).max(200_000).nullable(),
    textHint: z.enum(['automatic', 'on', 'off']),
    keyframeEveryS: z.number().min(0.5).max(20),
  }),
  camera: z.object({ source: DeviceSource, size: Size, frameRate: FrameRate, place: CameraPlace }).nullable(),
  voice: z.object({ source: DeviceSource }).nullable(),
  appSound: z
    .object({
      source: AppSoundSource,
      /** How loud it is beside the voice in the plain video. */
      gainDb: z.number().min(-60).max(6),
    })
    .nullable(),
  sound: z.object({
    codec: z.enum(['opus', 'pcm']),
    voiceKbps: z.int().min(16).max(256),
    appKbps: z.int().min(16).max(320),
  }),
  countdownS: z.int().min(0).max(10),
});
export type Rig = z.infer<typeof Rig>;

/** What a new lesson starts from: the practice desk, so that a first recording needs no permission and no device. */
export const PRACTICE_RIG: Rig = {
  version: 1,
  picture: {
    source: { from: 'practice', id: 'desk' },
    box: { width: 1280, height: 720 },
    frameRate: { num: 30, den: 1 },
    codec: 'h264',
    bitrateKbps: null,
    textHint: 'automatic',
    keyframeEveryS: 2,
  },
  camera: {
    source: { from: 'practice', id: 'presenter' },
    size: { width: 640, height: 360 },
    frameRate: { num: 30, den: 1 },
    place: { corner: 'bottom-right', width: 0.2, shape: 'rounded', mirror: false },
  },
  voice: { source: { from: 'practice', id: 'voice' } },
  appSound: { source: { from: 'practice', id: 'program-sound' }, gainDb: -12 },
  sound: { codec: 'opus', voiceKbps: 64, appKbps: 96 },
  countdownS: 3,
};

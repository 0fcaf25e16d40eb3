import { z } from 'zod';
import { Treatment, UNTREATED } from '../audio/treatment';
import { StoreId } from '../base/ids';
import { MOST_LENGTH_S } from '../base/length';
import { NAME_WORDS, unknownWords } from '../base/names';
import { FrameRate, framesPerSecond } from '../base/rational';
import { Size } from '../base/sizes';
import { VideoCodec } from '../codec/codecs';
import { Format } from '../codec/formats';
import { OPUS_RATES, SampleRate } from '../codec/sample-rate';
import { ColourKey } from '../image/colour-key';
import { Follow, Region } from '../image/region';
import { ScaleFilter } from '../image/resample';
import { upgradeRig } from './rig-upgrades';

/** A device that ships with the application. */
const Practice = z.object({ from: z.literal('practice'), id: z.string().min(1).max(40) });
/** A real camera or microphone, as the browser lists it. */
const Device = z.object({ from: z.literal('device'), id: z.string().max(200), label: z.string().max(200) });

export const Surface = z.enum(['display', 'window', 'tab']);
export type Surface = z.infer<typeof Surface>;
/** A real picture is chosen in the browser's own picker; the rig only says what is meant. */
const Screen = z.object({ from: z.literal('screen'), meant: Surface });
/** Sound alone is recorded. */
const None = z.object({ from: z.literal('none') });

export const PictureSource = z.discriminatedUnion('from', [Practice, Screen, None]);
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

/** How much later a sound is heard beside the picture; sooner where it is negative. A wireless microphone may be late. */
const DelayMs = z.number().min(-500).max(500);

export const CameraPlace = z.object({
  corner: z.enum(['top-left', 'top-right', 'bottom-left', 'bottom-right']),
  /** Share of the picture's width. */
  width: z.number().min(0.05).max(0.5),
  /** `tall`: a strip as high as the picture. */
  shape: z.enum(['rounded', 'circle', 'rectangle', 'tall']),
  mirror: z.boolean(),
  /** Its upper left corner as shares of the picture, where it does not stand in a corner with its margin. */
  free: z
    .object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) })
    .nullable()
    .default(null),
  /** Border; `width` as a share of the picture's. */
  border: z
    .object({ width: z.number().min(0.001).max(0.02), colour: z.string().regex(/^#[0-9a-f]{6}$/) })
    .nullable()
    .default(null),
  /** Chroma key. */
  key: ColourKey.nullable().default(null),
});
export type CameraPlace = z.infer<typeof CameraPlace>;

/** In a corner, where nothing much is said. */
export const FIRST_PLACE: CameraPlace = {
  corner: 'bottom-right',
  width: 0.2,
  shape: 'rounded',
  mirror: false,
  free: null,
  border: null,
  key: null,
};

/** What a video is for, in the order in which the choice is offered. */
export const PurposeKind = z.enum(['answer', 'lesson', 'motion', 'editor', 'talk', 'loop', 'sound']);
export type PurposeKind = z.infer<typeof PurposeKind>;
/** What a rig was begun from. `weak`: a machine that has little to spare beside the program that is shown. */
export const Purpose = z.object({ kind: PurposeKind, machine: z.enum(['strong', 'weak']) });
export type Purpose = z.infer<typeof Purpose>;

/** Seconds of film that one second of work becomes, exactly: 1/10 is a time-lapse, 2/1 slow motion. */
export const Speed = z.object({ num: z.int().min(1).max(3600), den: z.int().min(1).max(3600) });
export type Speed = z.infer<typeof Speed>;
export const isRealTime = ({ num, den }: Speed): boolean => num === den;

/** Distance of keyframes, as its owner thinks of it. */
export const KeyframeEvery = z.discriminatedUnion('unit', [
  z.object({ unit: z.literal('seconds'), value: z.number().min(0.1).max(20) }),
  z.object({ unit: z.literal('frames'), value: z.int().min(1).max(1200) }),
]);
export type KeyframeEvery = z.infer<typeof KeyframeEvery>;

/** What scales the picture while it is recorded: the browser's encoder, or a filter of our own. */
export const LiveFilter = z.enum(['browser', ...ScaleFilter.options]);
export type LiveFilter = z.infer<typeof LiveFilter>;

const Picture = z.object({
  source: PictureSource,
  /** What part of the source is kept: all of it, or a region, which is moved inside where the source is smaller. */
  aim: z.union([z.literal('whole'), Region]),
  /** A region that moves with the pointer, where the pointer's place is known; `null` stands still. */
  follow: Follow.nullable().default(null),
  /** Regions that were given a name, for this lesson. */
  regions: z
    .array(z.object({ name: z.string().trim().min(1).max(60), region: Region }))
    .max(50)
    .default([]),
  /** What the picture must fit, as `fit` says; `null` keeps the captured size. */
  box: Size.nullable(),
  /** Where it is going to be watched: for this its text must be tall enough. */
  viewer: z.enum(['page', 'player', 'full', 'phone']).default('player'),
  /** What happens where shapes or sizes differ (`fit.ts`). */
  fit: z.enum(['within', 'letterbox', 'fill', 'stretch']),
  /** What scales it while it is recorded. */
  filter: LiveFilter,
  /** Whether the pointer is in a real capture; what came of it is checked. */
  pointer: z.enum(['as-captured', 'shown', 'hidden']),
  /** Whether the studio's page shows the picture while it is recorded: that takes the machine some time. */
  preview: z.enum(['on', 'off']).default('on'),
  /** Of the film. */
  frameRate: FrameRate,
  speed: Speed,
  codec: z.union([z.literal('automatic'), VideoCodec]),
  /** Of H.264; the other codecs have one for 4:2:0 with 8 bits. */
  profile: z.enum(['automatic', 'constrained-baseline', 'main', 'high']),
  /** Name of a level of the codec ("4.2"); `null` is the lowest that holds the stream. */
  level: z.string().max(4).nullable(),
  rateControl: z.enum(['average', 'constant', 'quantizer']),
  /** For average and constant; `null` is automatic. */
  bitrateKbps: z.int().min(100).max(200_000).nullable(),
  /** For `quantizer`: the quantization step, coarser with the number. */
  quantizer: z.int().min(0).max(63),
  textHint: z.enum(['automatic', 'on', 'off']),
  keyframeEvery: KeyframeEvery,
  /** When the encoder is too slow: drop frames, or lower quality. */
  whenBehind: z.enum(['frames', 'detail']),
  hardware: z.enum(['automatic', 'prefer-hardware', 'prefer-software']),
});

/** The present form of a rig's document. */
export const RigDocument = z.object({
  version: z.literal(3),
  purpose: Purpose.nullable(),
  picture: Picture,
  camera: z.object({ source: DeviceSource, size: Size, frameRate: FrameRate, place: CameraPlace }).nullable(),
  voice: z
    .object({
      source: DeviceSource,
      /** `push`: heard only while its key is held. */
      talk: z.enum(['open', 'push']).default('open'),
      /** One microphone is one channel. */
      channels: z.union([z.literal(1), z.literal(2)]).default(1),
      /** How loud it is in the plain video beside what was recorded. */
      gainDb: z.number().min(-60).max(12).default(0),
      delayMs: DelayMs.default(0),
      treatment: Treatment.default(UNTREATED),
      /** `afterwards`: the raw voice is recorded and processed for playback. */
      treated: z.enum(['afterwards', 'while-recording']).default('afterwards'),
    })
    .nullable(),
  appSound: z
    .object({
      source: AppSoundSource,
      /** How loud it is beside the voice in the plain video. */
      gainDb: z.number().min(-60).max(6),
      delayMs: DelayMs.default(0),
    })
    .nullable(),
  sound: z
    .object({
      /** `pcm` has 16 bits a sample. */
      codec: z.enum(['opus', 'pcm', 'pcm-24']),
      /** Sample rate, Hz; `null` as the device gives them. */
      sampleRate: SampleRate.nullable().default(null),
      voiceKbps: z.int().min(16).max(256),
      appKbps: z.int().min(16).max(320),
    })
    .refine(
      ({ codec, sampleRate }) => codec !== 'opus' || sampleRate === null || OPUS_RATES.includes(sampleRate),
      { error: 'Opus knows 48, 24 and 16 kHz', path: ['sampleRate'] },
    ),
  names: z.object({
    /** Of the files that are given out; `names.ts` has the words in braces. */
    pattern: z
      .string()
      .trim()
      .min(1, 'a file needs a name')
      .max(120)
      .refine((pattern) => unknownWords(pattern).length === 0, {
        error: `in braces there may be ${NAME_WORDS.join(', ')} and nothing else`,
      }),
  }),
  /** Where a take is kept while it is recorded, and in the end. */
  stores: z.object({
    working: z.literal('browser'),
    /** `studio`: its own disk and nowhere else; or the id of a store that gets a copy of what is finished. */
    final: z.union([z.literal('studio'), StoreId]),
  }),
  /** Made of every take without being asked, beside the plain video. */
  formats: z.array(Format).max(7).default([]),
  /** How long the take is meant to be. It ends nothing; it is what room and size are reckoned for. */
  plannedLengthS: z.int().min(1).max(86_400).nullable(),
  /** What ends a take alone: nothing, or a length of film. */
  limits: z.object({ lengthS: z.int().min(1).max(MOST_LENGTH_S).nullable() }),
  countdownS: z.int().min(0).max(10),
  /** What comes after the stop. `plain-video`: the take, and its plain video as soon as there is one. */
  afterStop: z.enum(['open-take', 'plain-video', 'hand-over', 'next-take']),
  /** Where the newest take is handed over to after the stop: id of a destination that ships. */
  handOverTo: z.string().max(40).nullable().default(null),
});
/** A named, complete set of recording choices. Kept as JSON; `version` grows when the meaning of a field changes. */
export type Rig = z.infer<typeof RigDocument>;

/** A rig's document of any version, brought to the present one. */
export const Rig: z.ZodType<Rig> = z.preprocess(upgradeRig, RigDocument);

/** Distance of keyframes in both ways people think of it. */
export function keyframeDistance({ keyframeEvery, frameRate }: Rig['picture']): {
  s: number;
  frames: number;
} {
  const { unit, value } = keyframeEvery;
  const fps = framesPerSecond(frameRate);
  if (unit === 'frames') return { s: value / fps, frames: value };
  return { s: value, frames: Math.max(1, Math.round(value * fps)) };
}

/** A voice that nothing was chosen of yet. */
export const firstVoice = (source: DeviceSource): NonNullable<Rig['voice']> => ({
  source,
  talk: 'open',
  channels: 1,
  gainDb: 0,
  delayMs: 0,
  treatment: UNTREATED,
  treated: 'afterwards',
});

/** App sound as it first is: clearly under the voice. */
export const firstAppSound = (source: AppSoundSource): NonNullable<Rig['appSound']> => ({
  source,
  gainDb: -12,
  delayMs: 0,
});

/** What a new lesson starts from: the practice desk, so that a first recording needs no permission and no device. */
export const PRACTICE_RIG: Rig = {
  version: 3,
  purpose: null,
  picture: {
    source: { from: 'practice', id: 'desk' },
    aim: 'whole',
    follow: null,
    regions: [],
    viewer: 'player',
    box: { width: 1280, height: 720 },
    fit: 'within',
    filter: 'browser',
    pointer: 'as-captured',
    preview: 'on',
    frameRate: { num: 30, den: 1 },
    speed: { num: 1, den: 1 },
    codec: 'automatic',
    profile: 'automatic',
    level: null,
    rateControl: 'average',
    bitrateKbps: null,
    quantizer: 30,
    textHint: 'automatic',
    keyframeEvery: { unit: 'seconds', value: 2 },
    whenBehind: 'frames',
    hardware: 'automatic',
  },
  camera: {
    source: { from: 'practice', id: 'presenter' },
    size: { width: 640, height: 360 },
    frameRate: { num: 30, den: 1 },
    place: FIRST_PLACE,
  },
  voice: firstVoice({ from: 'practice', id: 'voice' }),
  appSound: firstAppSound({ from: 'practice', id: 'program-sound' }),
  sound: { codec: 'opus', sampleRate: null, voiceKbps: 64, appKbps: 96 },
  names: { pattern: '{lesson}, {take}' },
  stores: { working: 'browser', final: 'studio' },
  formats: [],
  plannedLengthS: null,
  limits: { lengthS: null },
  countdownS: 3,
  afterStop: 'open-take',
  handOverTo: null,
};

import { z } from 'zod';
import { FrameRate } from '../base/rational';
import { Size } from '../base/sizes';
import { VideoCodec } from '../codec/codecs';
import { ScaleFilter } from '../image/resample';

export const Container = z.enum(['mp4', 'mov', 'matroska']);
export type Container = z.infer<typeof Container>;
export const CONTAINER_NAMES: Record<Container, string> = {
  mp4: 'MP4',
  mov: 'MOV',
  matroska: 'Matroska',
};
export const EXTENSIONS: Record<Container, string> = { mp4: 'mp4', mov: 'mov', matroska: 'mkv' };

export const SoundCodec = z.enum(['aac', 'opus', 'pcm']);
export type SoundCodec = z.infer<typeof SoundCodec>;
export const SOUND_CODEC_NAMES: Record<SoundCodec, string> = { aac: 'AAC', opus: 'Opus', pcm: 'PCM, 24 bit' };

/** Profiles of H.264 by profile_idc (ITU-T H.264 Annex A.2), as probes name them. */
export const H264Profile = z.enum([
  'Constrained Baseline',
  'Baseline',
  'Main',
  'High',
  'High 4:4:4 Predictive',
]);
export type H264Profile = z.infer<typeof H264Profile>;

/**
 * The rules of a place that a video goes to. Data only, so that a place that is not known here can be described in a file.
 * What is null is not asked for.
 */
export const Destination = z.object({
  version: z.literal(1),
  id: z.string().regex(/^[a-z0-9-]{1,40}$/, 'must consist of lower-case characters, digits and hyphens'),
  name: z.string().min(1).max(60),
  /** When somebody chooses it, one sentence. */
  purpose: z.string().max(200),
  container: Container,
  /**
   * `untouched`: recorded pictures are copied wherever the rules allow it; `compact`: always encoded slowly, so that the file is as
   * small as it can be with clear text; `editing`: large and quick to seek in.
   */
  aim: z.enum(['untouched', 'compact', 'editing']),
  /** `separate`: each track is a file of its own, all beginning at the same instant. */
  tracks: z.enum(['mixed', 'separate']),
  video: z.object({
    /** What the place takes; the first is what is made. */
    codecs: z.array(VideoCodec).min(1),
    /** Asked of H.264 only. `maxLevel` is ten times the level's number (level_idc). */
    h264: z.object({ profiles: z.array(H264Profile).min(1), maxLevel: z.int().min(10).max(62) }).nullable(),
    /** No side may be longer. Nothing is ever scaled up to it. */
    box: Size.nullable(),
    /** Width to height. Bars are added where the picture has another shape. */
    shape: z.object({ width: z.int().min(1), height: z.int().min(1) }).nullable(),
    frameRate: z.object({ max: FrameRate.nullable(), constant: z.boolean() }),
    /** Longest time between two keyframes. */
    keyframeEveryS: z.number().min(0.03).max(60).nullable(),
    pixelFormat: z.enum(['yuv420p', 'yuv444p']).nullable(),
    squarePixels: z.boolean(),
    /** How pictures are made smaller. */
    scaling: ScaleFilter.default('lanczos'),
  }),
  sound: z.object({
    codec: SoundCodec,
    /** At most so many. */
    channels: z.union([z.literal(1), z.literal(2)]),
    sampleRate: z.int().min(8000).max(192_000),
    kbps: z.int().min(16).max(512),
    /** ITU-R BS.1770-4: programme loudness with what it may be off by, and the highest true peak. */
    loudness: z
      .object({
        lufs: z.number().min(-40).max(-5),
        toleranceLu: z.number().min(0.1).max(5),
        truePeakDbtp: z.number().min(-9).max(0),
      })
      .nullable(),
  }),
  maxBytes: z.int().min(10_000).nullable(),
  maxDurationS: z.number().min(1).nullable(),
  /** The index stands before the data, so that playing begins while it loads. */
  fastStart: z.boolean(),
});
export type Destination = z.infer<typeof Destination>;

const HD = { width: 1920, height: 1080 };
/** What spoken videos are exported at where their destination asks for a loudness. */
export const SPOKEN_LUFS = -16;
const LOUDNESS = { lufs: SPOKEN_LUFS, toleranceLu: 0.5, truePeakDbtp: -1 };
const STEREO = { codec: 'aac', channels: 2, sampleRate: 48_000 } as const;
const COMMON_H264: NonNullable<Destination['video']['h264']> = {
  profiles: ['Constrained Baseline', 'Main', 'High'],
  maxLevel: 42,
};
const ANY_VIDEO: Destination['video'] = {
  codecs: ['h264', 'av1', 'vp9'],
  h264: null,
  box: null,
  shape: null,
  frameRate: { max: null, constant: false },
  keyframeEveryS: null,
  pixelFormat: null,
  squarePixels: true,
  scaling: 'lanczos',
};

/** What ships. Own ones are added as files. */
export const DESTINATIONS: readonly Destination[] = [
  {
    version: 1,
    id: 'as-recorded',
    name: 'Same as recorded',
    purpose: 'To keep, or for somebody who takes any file: nothing is encoded again that need not be.',
    container: 'mp4',
    aim: 'untouched',
    tracks: 'mixed',
    video: ANY_VIDEO,
    sound: { ...STEREO, kbps: 160, loudness: null },
    maxBytes: null,
    maxDurationS: null,
    fastStart: true,
  },
  {
    version: 1,
    id: 'hd-video-host',
    name: 'HD video host',
    purpose: 'For a public video site that encodes once more: it is given the best there is.',
    container: 'mp4',
    aim: 'untouched',
    tracks: 'mixed',
    video: {
      ...ANY_VIDEO,
      codecs: ['h264'],
      h264: { profiles: ['Main', 'High'], maxLevel: 42 },
      box: HD,
      shape: { width: 16, height: 9 },
      frameRate: { max: { num: 60, den: 1 }, constant: true },
      keyframeEveryS: 2.1,
      pixelFormat: 'yuv420p',
    },
    sound: { ...STEREO, kbps: 256, loudness: { ...LOUDNESS, lufs: -14 } },
    maxBytes: 128_000_000_000,
    maxDurationS: 12 * 3600,
    fastStart: true,
  },
  {
    version: 1,
    id: 'course-platform',
    name: 'Course platform',
    purpose: 'For learners who stream a lesson as it is: small, clear, and even in loudness.',
    container: 'mp4',
    aim: 'compact',
    tracks: 'mixed',
    video: {
      ...ANY_VIDEO,
      codecs: ['av1', 'h264'],
      h264: COMMON_H264,
      box: HD,
      frameRate: { max: { num: 30, den: 1 }, constant: true },
      keyframeEveryS: 10,
      pixelFormat: 'yuv420p',
    },
    sound: { ...STEREO, kbps: 128, loudness: LOUDNESS },
    maxBytes: 4_000_000_000,
    maxDurationS: 4 * 3600,
    fastStart: true,
  },
  {
    version: 1,
    id: 'message-attachment',
    name: 'Message attachment',
    purpose: 'For a chat or a mail that takes files of 2 MB at most and shows them anywhere.',
    container: 'mp4',
    aim: 'compact',
    tracks: 'mixed',
    video: {
      ...ANY_VIDEO,
      codecs: ['h264'],
      h264: COMMON_H264,
      box: { width: 1280, height: 720 },
      frameRate: { max: { num: 30, den: 1 }, constant: true },
      keyframeEveryS: 10,
      pixelFormat: 'yuv420p',
    },
    sound: { ...STEREO, kbps: 96, loudness: LOUDNESS },
    maxBytes: 2_000_000,
    maxDurationS: null,
    fastStart: true,
  },
  {
    version: 1,
    id: 'editor',
    name: 'For an editor',
    purpose: 'For an external editor: one file per track, constant frame rate, fast seeking, original sound.',
    container: 'mov',
    aim: 'editing',
    tracks: 'separate',
    video: {
      ...ANY_VIDEO,
      codecs: ['h264'],
      h264: { profiles: ['High'], maxLevel: 52 },
      frameRate: { max: null, constant: true },
      keyframeEveryS: 0.5,
      pixelFormat: 'yuv420p',
    },
    sound: { codec: 'pcm', channels: 1, sampleRate: 48_000, kbps: 512, loudness: null },
    maxBytes: null,
    maxDurationS: null,
    fastStart: false,
  },
];

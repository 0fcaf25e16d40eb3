import { z } from 'zod';
import { CODEC_NAMES, type VideoCodec } from './codecs';
import { OPUS_RATES, SAMPLE_RATES, type SampleRate } from './sample-rate';

/** What is made of a take beside the plain video, when it is asked for. */
export const Format = z.enum(['mov', 'webm', 'm4a', 'mp3', 'flac', 'wav', 'opus']);
export type Format = z.infer<typeof Format>;

export type SoundName = 'opus' | 'pcm' | 'aac' | 'mp3' | 'flac';

/** What a container can hold, and what it is good for: the words stand beside the choice. */
export type ContainerFacts = {
  name: string;
  extension: string;
  video: readonly VideoCodec[];
  sound: readonly SoundName[];
  /** Sample rates that its sound can have, of those that are recorded. */
  rates: readonly number[];
  /** What is left when whoever writes it dies. */
  crash: 'all up to then' | 'nothing';
  plays: string;
  editors: string;
};

/** Containers that the studio records and makes. Codecs as the standards allow them: ISO/IEC 14496-12 and -14, RFC 9559, the WebM container guidelines. */
export const CONTAINERS: Readonly<Record<'matroska' | 'mp4' | Format, ContainerFacts>> = {
  matroska: {
    name: 'Matroska',
    extension: 'mkv',
    video: ['h264', 'vp9', 'av1'],
    sound: ['opus', 'pcm', 'aac', 'mp3', 'flac'],
    rates: SAMPLE_RATES,
    crash: 'all up to then',
    plays: 'Players on a computer; not every browser or phone.',
    editors: 'Some open it; all its tracks stay apart.',
  },
  mp4: {
    name: 'MP4',
    extension: 'mp4',
    video: ['h264', 'vp9', 'av1'],
    sound: ['aac', 'opus', 'mp3', 'flac'],
    rates: SAMPLE_RATES,
    crash: 'nothing',
    plays: 'Everywhere, with H.264 and AAC.',
    editors: 'All open it.',
  },
  mov: {
    name: 'MOV',
    extension: 'mov',
    video: ['h264'],
    sound: ['aac', 'pcm'],
    rates: SAMPLE_RATES,
    crash: 'nothing',
    plays: 'Players on a computer.',
    editors: 'Liked by editors; some take it only.',
  },
  webm: {
    name: 'WebM',
    extension: 'webm',
    video: ['vp9', 'av1'],
    sound: ['opus'],
    rates: OPUS_RATES,
    crash: 'all up to then',
    plays: 'Browsers.',
    editors: 'Few open it.',
  },
  m4a: {
    name: 'M4A',
    extension: 'm4a',
    video: [],
    sound: ['aac'],
    rates: SAMPLE_RATES,
    crash: 'nothing',
    plays: 'Everywhere.',
    editors: 'Most open it.',
  },
  mp3: {
    name: 'MP3',
    extension: 'mp3',
    video: [],
    sound: ['mp3'],
    rates: SAMPLE_RATES,
    crash: 'all up to then',
    plays: 'Everywhere, old players too.',
    editors: 'All open it.',
  },
  flac: {
    name: 'FLAC',
    extension: 'flac',
    video: [],
    sound: ['flac'],
    rates: SAMPLE_RATES,
    crash: 'all up to then',
    plays: 'Browsers and most players.',
    editors: 'Most open it; nothing is lost.',
  },
  wav: {
    name: 'WAV',
    extension: 'wav',
    video: [],
    sound: ['pcm'],
    rates: SAMPLE_RATES,
    crash: 'all up to then',
    plays: 'Everywhere; large.',
    editors: 'All open it; nothing is lost.',
  },
  opus: {
    name: 'Opus',
    extension: 'opus',
    video: [],
    sound: ['opus'],
    rates: OPUS_RATES,
    crash: 'all up to then',
    plays: 'Browsers and most players.',
    editors: 'Few open it.',
  },
};

export const isSoundOnly = (format: Format): boolean => CONTAINERS[format].video.length === 0;

/** The rate of a format's sound: the one that was recorded, where the format holds it; else that of video. @param recorded null is the device's */
export const formatRate = (format: Format, recorded: SampleRate | null): SampleRate =>
  recorded !== null && CONTAINERS[format].rates.includes(recorded) ? recorded : 48_000;

/** What a take gives to make a format of. */
export type FormatSource = {
  /** Null where sound alone was recorded. */
  picture: { codec: VideoCodec; segments: number; withCamera: boolean } | null;
  hasSound: boolean;
};

const list = (names: readonly string[]) =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

/**
 * Why a format cannot be made of a take without encoding its picture again; null when it can. Sound is made as the format wants it.
 */
export function formatRefusal(format: Format, { picture, hasSound }: FormatSource): string | null {
  const { name, video } = CONTAINERS[format];
  if (isSoundOnly(format)) return hasSound ? null : 'There is no sound in it.';
  if (!picture) return `There is no picture in it: ${name} is for pictures.`;
  // The plain video is H.264 whatever was recorded; its packets are copied.
  if (video.includes('h264')) return null;
  if (!video.includes(picture.codec))
    return `${name} holds ${list(video.map((codec) => CODEC_NAMES[codec]))}; this is ${CODEC_NAMES[picture.codec]}.`;
  if (picture.withCamera)
    return `The camera lies over the screen only in the plain video, which is H.264; ${name} does not hold that.`;
  if (picture.segments > 1) return 'The screen was recorded in more than one piece.';
  return null;
}

/** What a take made with this rig will give. @param codec that "automatic" means on this machine */
export const formatSource = (
  rig: {
    picture: { source: { from: string } };
    camera: object | null;
    voice: object | null;
    appSound: object | null;
  },
  codec: VideoCodec,
): FormatSource => ({
  picture:
    rig.picture.source.from === 'none' ? null : { codec, segments: 1, withCamera: rig.camera !== null },
  hasSound: rig.voice !== null || rig.appSound !== null,
});

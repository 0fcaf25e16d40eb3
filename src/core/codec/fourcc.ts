import { CODEC_NAMES, VideoCodec } from './codecs';

/** The four characters by which files call a codec, and with which its codec string begins (RFC 6381, 3.3). */
export const FOURCC: Readonly<Record<VideoCodec, string>> = { h264: 'avc1', vp9: 'vp09', av1: 'av01' };

const fourccOf = (codecString: string): string => codecString.split('.')[0] ?? '';

/** The codec of a codec string such as `avc1.640028`; null for sound and for what is not known here. */
export const codecOfString = (codecString: string): VideoCodec | null =>
  VideoCodec.options.find((codec) => FOURCC[codec] === fourccOf(codecString)) ?? null;

const SOUND_NAMES: Readonly<Record<string, string>> = {
  opus: 'Opus',
  'pcm-s16': 'PCM 16 bit',
  'pcm-s24': 'PCM 24 bit',
};

/** What people call the codec of a recorded track, from what its segment says; what is not known keeps its own name. */
export function recordedCodecName(codecString: string): string {
  const video = codecOfString(codecString);
  return video ? CODEC_NAMES[video] : (SOUND_NAMES[codecString] ?? codecString);
}

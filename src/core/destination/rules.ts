import { bytesText, clockText } from '../base/figures';
import { type FrameRate, framesPerSecond, rateText } from '../base/rational';
import { sizeText } from '../base/sizes';
import { CODEC_NAMES, codecName } from '../codec/codecs';
import {
  CONTAINER_NAMES,
  type Container,
  type Destination,
  SOUND_CODEC_NAMES,
  type SoundCodec,
} from './destination';

/** What a file on disk really is. Everything is read from the file, nothing from what was asked of an encoder. */
export type MeasuredVideo = {
  /** As the probe names it: `h264`, `av1`, `mpeg4` … */
  codec: string;
  profile: string | null;
  /** Ten times the level's number, of H.264 only. */
  level: number | null;
  width: number;
  height: number;
  pixelFormat: string;
  squarePixels: boolean;
  progressive: boolean;
  /** From the times of all pictures, not from what the header promises. */
  constantRate: boolean;
  rate: FrameRate;
  frames: number;
  longestKeyframeGapS: number;
};
export type MeasuredSound = {
  codec: string;
  channels: number;
  sampleRate: number;
  /** ITU-R BS.1770-4 programme loudness; null for silence. */
  lufs: number | null;
  truePeakDbtp: number | null;
};
export type MeasuredFile = {
  container: Container | 'other';
  containerName: string;
  bytes: number;
  durationUs: number;
  /** Whether the index stands before the data; null where a container has no such order. */
  fastStart: boolean | null;
  video: MeasuredVideo | null;
  sound: MeasuredSound | null;
  /** Streams of each kind; players show one of each. */
  videoStreams: number;
  soundStreams: number;
};

export type RuleResult = {
  rule: string;
  name: string;
  measured: string;
  allowed: string;
  met: boolean;
  /** What to do when it is not met. */
  remedy: string;
};

const result = (
  rule: string,
  name: string,
  measured: string,
  allowed: string,
  met: boolean,
  remedy: string,
): RuleResult => ({ rule, name, measured, allowed, met, remedy });

/** How probes name what we ask of a sound codec. */
const isSound = (codec: string, wanted: SoundCodec): boolean =>
  wanted === 'pcm' ? codec.startsWith('pcm_s24') || codec.startsWith('pcm_s16') : codec === wanted;
/** Sound codecs and pixel formats as the interface spells them; what is not known here stays as the probe names it. */
const soundName = (codec: string): string => {
  const [, bits] = /^pcm_s(16|24|32)/.exec(codec) ?? [];
  return bits ? `PCM, ${bits} bit` : codec === 'aac' || codec === 'opus' ? SOUND_CODEC_NAMES[codec] : codec;
};
const pixelName = (format: string): string => {
  const [, sampling, bits = '8'] = /^yuvj?(420|422|444)p(\d+)?(?:le|be)?$/.exec(format) ?? [];
  return sampling ? `${sampling.split('').join(':')}, ${bits} bit` : format;
};
const channelsText = (channels: number): string =>
  channels === 1 ? 'mono' : channels === 2 ? 'stereo' : String(channels);
const sampleRateText = (hz: number): string => `${hz / 1000} kHz`;

/** A file's last picture or block of sound may end a little later than the cut. */
const SLACK_US = 100_000;
const RATE_SLACK = 1.001;
const KEYFRAME_SLACK_S = 0.05;
const AGAIN = 'Make it again from the lesson.';

type Asked = Destination['video'];
type PictureRule = (asked: Asked, video: MeasuredVideo) => RuleResult | null;

/** Every rule about the picture, in the order in which they are shown; null where the place does not ask for it. */
const PICTURE_RULES: readonly PictureRule[] = [
  ({ codecs }, { codec }) =>
    result(
      'video-codec',
      'Video codec',
      codecName(codec),
      codecs.map((one) => CODEC_NAMES[one]).join(' or '),
      codecs.some((one) => one === codec),
      `Encode the picture as ${CODEC_NAMES[codecs[0] ?? 'h264']}.`,
    ),
  ({ h264 }, { codec, profile }) =>
    h264 && codec === 'h264'
      ? result(
          'profile',
          'H.264 profile',
          profile ?? 'unknown',
          h264.profiles.join(' or '),
          h264.profiles.some((one) => one === profile),
          `Encode with the ${h264.profiles.at(-1)} profile.`,
        )
      : null,
  ({ h264 }, { codec, level }) =>
    h264 && codec === 'h264'
      ? result(
          'level',
          'Level',
          level === null ? 'unknown' : (level / 10).toFixed(1),
          `at most ${(h264.maxLevel / 10).toFixed(1)}`,
          level !== null && level <= h264.maxLevel,
          'Lower the picture size or the frame rate.',
        )
      : null,
  ({ box }, video) =>
    box &&
    result(
      'size',
      'Picture size',
      sizeText(video),
      `at most ${sizeText(box)}`,
      video.width <= box.width && video.height <= box.height,
      `Scale it down to fit ${sizeText(box)}.`,
    ),
  ({ shape }, video) => {
    if (!shape) return null;
    const { width, height } = shape;
    // A side may be off by the pixel that makes it even.
    const met = Math.abs(video.width * height - video.height * width) <= 2 * Math.max(width, height);
    const measured = met ? `${width}:${height}` : `${(video.width / video.height).toFixed(2)}:1`;
    const allowed = `${width}:${height}`;
    return result('shape', 'Aspect ratio', measured, allowed, met, 'Letterbox it to this aspect ratio.');
  },
  ({ frameRate: { max } }, { rate }) =>
    max &&
    result(
      'frame-rate',
      'Frame rate',
      `${rateText(rate)} fps`,
      `at most ${rateText(max)} fps`,
      framesPerSecond(rate) <= framesPerSecond(max) * RATE_SLACK,
      `Lower the frame rate to ${rateText(max)} fps.`,
    ),
  ({ frameRate: { constant } }, { constantRate }) =>
    constant
      ? result(
          'constant-rate',
          'Frame rate mode',
          constantRate ? 'constant' : 'variable',
          'constant',
          constantRate,
          'Encode it at a constant frame rate.',
        )
      : null,
  ({ keyframeEveryS }, { longestKeyframeGapS }) =>
    keyframeEveryS === null
      ? null
      : result(
          'keyframes',
          'Longest keyframe interval',
          `${longestKeyframeGapS.toFixed(1)} s`,
          `at most ${keyframeEveryS.toFixed(1)} s`,
          longestKeyframeGapS <= keyframeEveryS + KEYFRAME_SLACK_S,
          `Encode it with a keyframe every ${keyframeEveryS} s.`,
        ),
  (asked, { pixelFormat }) =>
    asked.pixelFormat &&
    result(
      'pixel-format',
      'Pixel format',
      pixelName(pixelFormat),
      pixelName(asked.pixelFormat),
      pixelFormat === asked.pixelFormat,
      `Encode it as ${pixelName(asked.pixelFormat)}, limited range.`,
    ),
  (asked, { squarePixels }) =>
    asked.squarePixels
      ? result(
          'square-pixels',
          'Square pixels',
          squarePixels ? 'square' : 'stretched',
          'square',
          squarePixels,
          'Scale it to square pixels.',
        )
      : null,
  (_, { progressive }) =>
    result(
      'progressive',
      'Progressive scan',
      progressive ? 'progressive' : 'interlaced',
      'progressive',
      progressive,
      'Deinterlace it.',
    ),
];

/** The rules about the picture alone. They also say whether recorded pictures may be copied. */
export const pictureRules = ({ video: asked }: Destination, video: MeasuredVideo): RuleResult[] =>
  PICTURE_RULES.flatMap((rule) => rule(asked, video) ?? []);

function soundRules({ sound: asked }: Destination, sound: MeasuredSound): RuleResult[] {
  const rules = [
    result(
      'sound-codec',
      'Sound codec',
      soundName(sound.codec),
      SOUND_CODEC_NAMES[asked.codec],
      isSound(sound.codec, asked.codec),
      `Encode the sound as ${SOUND_CODEC_NAMES[asked.codec]}.`,
    ),
    result(
      'channels',
      'Channels',
      channelsText(sound.channels),
      asked.channels === 2 ? 'stereo or mono' : 'mono',
      sound.channels >= 1 && sound.channels <= asked.channels,
      asked.channels === 2 ? 'Mix it down to two channels.' : 'Mix it down to one channel.',
    ),
    result(
      'sample-rate',
      'Sample rate',
      sampleRateText(sound.sampleRate),
      sampleRateText(asked.sampleRate),
      sound.sampleRate === asked.sampleRate,
      `Resample it to ${sampleRateText(asked.sampleRate)}.`,
    ),
  ];
  const { loudness } = asked;
  // Silence has no loudness to be even in.
  if (!loudness || sound.lufs === null) return rules;
  const { lufs, toleranceLu, truePeakDbtp } = loudness;
  const peak = sound.truePeakDbtp;
  rules.push(
    result(
      'loudness',
      'Loudness',
      `${sound.lufs.toFixed(1)} LUFS`,
      `${lufs} ± ${toleranceLu} LUFS`,
      Math.abs(sound.lufs - lufs) <= toleranceLu + 1e-9,
      `Make it ${Math.abs(lufs - sound.lufs).toFixed(1)} dB ${sound.lufs < lufs ? 'louder' : 'quieter'}.`,
    ),
    result(
      'true-peak',
      'True peak',
      peak === null ? 'unknown' : `${peak.toFixed(1)} dBTP`,
      `at most ${truePeakDbtp} dBTP`,
      peak !== null && peak <= truePeakDbtp + 1e-9,
      'Limit the peaks before encoding.',
    ),
  );
  return rules;
}

/**
 * Whether a file meets the rules of a place: every rule with what was measured, what is allowed and what to do. A part that the file
 * should not have, one track of several for an editor, is not asked for.
 * @param parts what the file is for; `both` for anything that is watched
 */
export function checkRules(
  destination: Destination,
  file: MeasuredFile,
  parts: 'both' | 'picture' | 'sound' = 'both',
): RuleResult[] {
  const rules: RuleResult[] = [];
  const { container, maxBytes, maxDurationS, fastStart } = destination;
  // A sound track alone has a container of its own.
  if (parts !== 'sound')
    rules.push(
      result(
        'container',
        'Container',
        file.containerName,
        CONTAINER_NAMES[container],
        file.container === container,
        `Put it into ${CONTAINER_NAMES[container]} without encoding it again.`,
      ),
    );
  if (parts !== 'sound') {
    if (file.video) rules.push(...pictureRules(destination, file.video));
    if (file.videoStreams !== 1)
      rules.push(result('one-picture', 'Video tracks', `${file.videoStreams}`, '1', false, AGAIN));
  }
  if (parts !== 'picture') {
    if (file.sound) rules.push(...soundRules(destination, file.sound));
    // A lesson may have been recorded without sound; a sound track may not be without.
    if (file.soundStreams > 1 || (parts === 'sound' && file.soundStreams === 0))
      rules.push(
        result(
          'one-sound',
          'Sound tracks',
          `${file.soundStreams}`,
          '1',
          false,
          file.soundStreams > 1 ? 'Mix the sounds into one track.' : AGAIN,
        ),
      );
  }
  if (fastStart)
    rules.push(
      result(
        'fast-start',
        'Plays while it loads',
        file.fastStart ? 'index first' : 'index last',
        'index first',
        file.fastStart === true,
        'Write it again with the index before the data; nothing is encoded.',
      ),
    );
  if (maxBytes !== null)
    rules.push(
      result(
        'bytes',
        'Size',
        bytesText(file.bytes),
        `at most ${bytesText(maxBytes)}`,
        file.bytes <= maxBytes,
        'Shorten it, or choose a smaller picture.',
      ),
    );
  if (maxDurationS !== null)
    rules.push(
      result(
        'length',
        'Length',
        clockText(file.durationUs),
        `at most ${clockText(maxDurationS * 1e6)}`,
        file.durationUs <= maxDurationS * 1e6 + SLACK_US,
        'Shorten it, or split it into two.',
      ),
    );
  return rules;
}
